import { expose } from "comlink";
import { teacherWork } from "./teacherWork";

export type TeacherWorker = typeof teacherWork;
expose(teacherWork);
