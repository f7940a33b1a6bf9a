import { Listens } from "@perceptum/core/live";
import { Project, ProjectDocument } from "@perceptum/core/project";
import * as z from "zod";
import { type Endpoint, endpoint, json } from "./endpoint";
import { LINKS } from "./links";
import { openApi } from "./openApi";
import { PROJECTS, ProjectSummary } from "./projects";

const health = endpoint({
  method: "get",
  path: "health",
  says: "Says that the server is there.",
  answers: { 200: { says: "It is.", content: json(z.strictObject({ ok: z.literal(true) })) } },
});

const ownDescription = endpoint({
  method: "get",
  path: "openApi",
  says: "Gives this description.",
  answers: {
    200: { says: "The description, as OpenAPI 3.1 has it.", content: json(z.looseObject({ openapi: z.string() })) },
  },
});

/** All that the server is asked: one entry each. Server and page go by it, and it describes itself. */
export const CONTRACT = { health, ownDescription, ...PROJECTS, ...LINKS } as const satisfies Record<string, Endpoint>;
export type EndpointName = keyof typeof CONTRACT;

/** What an endpoint answers where it went well, as JSON. */
export type AnswerOf<K extends EndpointName> =
  Extract<
    (typeof CONTRACT)[K]["answers"][keyof (typeof CONTRACT)[K]["answers"]],
    { content: { types: readonly ["application/json"] } }
  > extends { content: { schema: infer S extends z.ZodType } }
    ? z.infer<S>
    : never;

/** Checks an answer that went well. @throws ZodError where it is not as agreed */
export function checkAnswer<K extends EndpointName>(name: K, status: number, body: unknown): AnswerOf<K> {
  const { answers }: Endpoint = CONTRACT[name];
  const schema = answers[status]?.content?.schema;
  if (schema === undefined) throw new RangeError(`${name} does not answer ${status} with JSON`);
  schema.parse(body);
  return body as AnswerOf<K>;
}

/** The description of the server that it gives itself. */
export const openApiDocument = (): object => openApi(CONTRACT, { Project, ProjectDocument, ProjectSummary, Listens });

export * from "./endpoint";
export { EVENTS, type EventName, type EventOf, LINES_TAKEN, TABLE_TAKEN, Taken } from "./links";
export * from "./paths";
export { MOST_FRAME_BYTES, ProjectSummary, RunChoice } from "./projects";
