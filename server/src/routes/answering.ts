import { type AnswerOf, CONTRACT, type Endpoint, type EndpointName, PATHS } from "@perceptum/contract";
import express, { type IRouter, type Request, type Response } from "express";
import type * as z from "zod";
import { checked, Problem } from "../problem";

type Contract<K extends EndpointName> = (typeof CONTRACT)[K];
type Given<K extends EndpointName, Part extends "params" | "query" | "headers"> =
  Contract<K> extends Record<Part, infer S extends z.ZodObject> ? z.infer<S> : Record<never, never>;

/** What a request asks, checked as the contract has it. */
export interface Asked<K extends EndpointName> {
  request: Request;
  params: Given<K, "params">;
  query: Given<K, "query">;
  headers: Given<K, "headers">;
  /** A body that was read before the handler; one that is read apart is taken in by `withBody`. */
  body: Contract<K> extends { body: { read: "here"; schema: infer S extends z.ZodType } } ? z.infer<S> : undefined;
}

type Status<K extends EndpointName> = keyof Contract<K>["answers"] & number;

/** The ways to answer a request, none but those of the contract. */
export interface Reply<K extends EndpointName> {
  /** For headers, and for answers that go on. */
  response: Response;
  /** @throws ZodError where the answer is not as agreed */
  json(status: Status<K>, answer: AnswerOf<K>): void;
  /** Text or bytes as they are: of a kind that no schema describes, or checked before. */
  raw(status: Status<K>, type: string, body: string | Uint8Array): void;
  done(status: Status<K>): void;
}

/** A path of the contract as Express matches it. */
export const routeOf = (path: keyof typeof PATHS): string => PATHS[path].replace(/\{(\w+)\}/g, ":$1");

/** Answers one endpoint of the contract: what comes in is checked before `handle`, what goes out after it. */
export function answer<K extends EndpointName>(
  router: IRouter,
  name: K,
  handle: (asked: Asked<K>, reply: Reply<K>) => Promise<void> | void,
): void {
  const { method, path, params, query, headers, body, answers }: Endpoint = CONTRACT[name];
  const isHere = body?.read === "here";
  router[method](routeOf(path), ...(isHere ? [express.json({ limit: body.most })] : []), async (request, response) => {
    const asked = {
      request,
      params: params === undefined ? {} : checked(params, request.params),
      query: query === undefined ? {} : checked(query, request.query),
      headers: headers === undefined ? {} : checked(headers, request.headers),
      body: isHere ? checked(body.schema, request.body) : undefined,
    } as Asked<K>;
    await handle(asked, {
      response,
      json: (status, said) => {
        answers[status].content?.schema.parse(said);
        response.status(status).json(said);
      },
      raw: (status, type, said) => {
        response
          .status(status)
          .type(type)
          .send(typeof said === "string" ? said : Buffer.from(said.buffer, said.byteOffset, said.byteLength));
      },
      done: (status) => {
        response.status(status).end();
      },
    });
  });
}

/** The media type of a body, one of those that are taken. @throws Problem 415 */
export function takenType<const T extends string>(request: Request, { types }: { types: readonly T[] }): T {
  const type = types.find((taken) => request.is(taken));
  if (type === undefined) throw new Problem(415, "Not taken", `this address takes ${types.join(", ")}`);
  return type;
}
