import * as z from "zod";
import { type Content, type Endpoint, EVERYWHERE, PROBLEM, ProblemDetails, RAW, SOMEWHERE } from "./endpoint";
import { PATHS } from "./paths";

/** Schemas that several addresses use, by the names that they have in the file. */
type Shared = Readonly<Record<string, z.ZodType>>;

const schemaOf = (schema: z.ZodType, io: "input" | "output") => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: "any" });
  return rest;
};

/** Schemas by name. What a schema refers to within itself stands beside it: a place in the file counts from its top. */
function namedSchemas(shared: Shared): Record<string, object> {
  return Object.fromEntries(
    Object.entries(shared).flatMap(([name, schema]) => {
      const { $defs = {}, ...own } = schemaOf(schema, "input");
      const moved = (part: object): object =>
        JSON.parse(JSON.stringify(part).replaceAll('"#/$defs/', `"#/components/schemas/${name}.`));
      return [
        [name, moved(own)] as const,
        ...Object.entries($defs).map(([inner, part]) => [`${name}.${inner}`, moved(part)] as const),
      ];
    }),
  );
}

/** The fields of an object's schema, each as JSON Schema with whether it must be there. */
function fieldsOf(schema: z.ZodObject) {
  const { properties = {}, required = [] } = schemaOf(schema, "input") as {
    properties?: Record<string, object>;
    required?: string[];
  };
  return Object.entries(properties).map(([name, field]) => ({
    name,
    schema: field,
    required: required.includes(name),
  }));
}

/** An OpenAPI 3.1 document of the endpoints; each is known there by its key. */
export function openApi(endpoints: Readonly<Record<string, Endpoint>>, shared: Shared): object {
  const nameOf = new Map(Object.entries(shared).map(([name, schema]) => [schema, name]));
  const contentOf = ({ types, schema }: Content, io: "input" | "output") => {
    const name = nameOf.get(schema);
    const written =
      name !== undefined ? { $ref: `#/components/schemas/${name}` } : schema === RAW ? {} : schemaOf(schema, io);
    return Object.fromEntries(types.map((type) => [type, { schema: written }]));
  };
  const problem = (says: string) => ({
    description: says,
    content: { [PROBLEM]: { schema: { $ref: "#/components/schemas/ProblemDetails" } } },
  });
  const operation = (key: string, { says, params, query, headers, body, answers, problems = [] }: Endpoint) => {
    const given = (where: "path" | "query" | "header", fields: z.ZodObject | undefined) =>
      (fields === undefined ? [] : fieldsOf(fields)).map((field) => ({ ...field, in: where }));
    const parameters = [...given("path", params), ...given("query", query), ...given("header", headers)];
    return {
      operationId: key,
      summary: says,
      ...(parameters.length > 0 && { parameters }),
      ...(body !== undefined && { requestBody: { required: true, content: contentOf(body, "input") } }),
      responses: {
        ...Object.fromEntries(
          Object.entries(answers).map(([status, { says, content, headers = {} }]) => [
            status,
            {
              description: says,
              ...(content !== undefined && { content: contentOf(content, "output") }),
              ...(Object.keys(headers).length > 0 && {
                headers: Object.fromEntries(
                  Object.entries(headers).map(([name, tells]) => [
                    name,
                    { description: tells, schema: { type: "string" } },
                  ]),
                ),
              }),
            },
          ]),
        ),
        ...Object.fromEntries(problems.map((status) => [status, problem(SOMEWHERE[status])])),
        ...Object.fromEntries(
          Object.keys(EVERYWHERE).map((status) => [status, { $ref: `#/components/responses/${status}` }]),
        ),
      },
    };
  };
  const paths: Record<string, Record<string, object>> = {};
  for (const [key, one] of Object.entries(endpoints)) {
    const path = PATHS[one.path];
    paths[path] ??= {};
    paths[path][one.method] = operation(key, one);
  }
  return {
    openapi: "3.1.0",
    info: {
      title: "Perceptum",
      version: "1",
      description: "The server answers this computer and its own pages only.",
    },
    paths,
    components: {
      schemas: {
        ...namedSchemas(shared),
        ProblemDetails: schemaOf(ProblemDetails, "output"),
      },
      responses: Object.fromEntries(Object.entries(EVERYWHERE).map(([status, says]) => [status, problem(says)])),
    },
  };
}
