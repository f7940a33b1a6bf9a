import { useDispatch, useSelector } from "react-redux";
import type { AppState, AppStore } from "../model/store/store";

export const useAppDispatch = useDispatch.withTypes<AppStore["dispatch"]>();
export const useAppSelector = useSelector.withTypes<AppState>();
