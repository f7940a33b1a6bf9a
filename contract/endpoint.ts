import { TapeIdSchema } from "@perceptum/core/names";
import * as z from "zod";
import type { PATHS } from "./paths";

/** Bytes or text that no schema describes, by their media type. */
export const RAW = z.unknown();

/** What goes over the wire as one body. */
export interface Content {
  /** The media types that it may have. */
  types: readonly string[];
  /** What its JSON must be; `RAW` for other bodies. */
  schema: z.ZodType;
}

export interface Body extends Content {
  /** So many bytes at most. */
  most: number;
  /** `here`: read and checked before the handler. `apart`: the handler takes it in, in another thread where it is large. */
  read: "here" | "apart";
}

export interface Answer {
  /** When it comes, as a sentence. */
  says: string;
  content?: Content;
  /** Its headers, with what each tells. */
  headers?: Readonly<Record<string, string>>;
}

/** One thing that is asked of the server: all that goes in and all that comes out. */
export interface Endpoint {
  method: "get" | "post" | "put" | "delete";
  path: keyof typeof PATHS;
  /** What it does, as a sentence. */
  says: string;
  params?: z.ZodObject;
  query?: z.ZodObject;
  /** The headers that it looks at, by their names in small letters. */
  headers?: z.ZodObject;
  body?: Body;
  /** What comes where it went well, by status. */
  answers: Readonly<Record<number, Answer>>;
  /** The problems of its own; those of `EVERYWHERE` may come of any. */
  problems?: readonly number[];
}

/** Keeps the type of each endpoint as it is written. */
export const endpoint = <const E extends Endpoint>(one: E): E => one;

export const json = <S extends z.ZodType>(schema: S) => ({ types: ["application/json"], schema }) as const;
export const raw = <const T extends readonly string[]>(...types: T) => ({ types, schema: RAW }) as const;

/** The answer where there is nothing to tell. */
export const DONE = { says: "It is done." } as const;

/** What went wrong, as RFC 9457 has it, with what a program can go by. */
export const ProblemDetails = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  /** Where in what was sent: a path, or a line and column. */
  place: z.string().optional(),
  /** The revision that the project is at. */
  revision: z.number().int().optional(),
  /** The id of the request that made it. */
  send: z.string().optional(),
  /** The tapes whose readings are to be sent first. */
  missing: z.array(TapeIdSchema).optional(),
  /** The frames that are to be sent first, by their names. */
  missingFrames: z.array(z.string()).optional(),
});
export type ProblemDetails = z.infer<typeof ProblemDetails>;

/** The media type of a problem. */
export const PROBLEM = "application/problem+json";

/** Problems that any address may answer with. */
export const EVERYWHERE: Readonly<Record<number, string>> = {
  400: "The request, or its JSON, cannot be read.",
  403: "The request does not come from this server’s own pages or this computer.",
  404: "What was asked for is not there.",
  408: "The request took too long to come in.",
  413: "The body is larger than is read.",
  422: "What was sent is not valid; `place` says where.",
  429: "This was asked too often; `Retry-After` says when to come again.",
  431: "The headers are too long.",
  500: "Something went wrong at the server; nothing was changed.",
  503: "The server cannot do this now; `Retry-After` says when to come again.",
  507: "There is no room on the disk.",
};

/** Problems of some addresses. */
export const SOMEWHERE: Readonly<Record<number, string>> = {
  409: "What is here does not go with what was sent; `missing` and `missingFrames` name what is to be sent first.",
  412: "The project was changed elsewhere; `revision` says where it is, `send` by which request.",
  415: "The body has a media type that is not taken here.",
  428: "The change must say with `If-Match` which revision it was made on.",
  502: "The line to the robot could not be opened.",
};
