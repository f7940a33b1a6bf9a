import { validate } from "@readme/openapi-parser";
import { describe, expect, expectTypeOf, it } from "vitest";
import * as z from "zod";
import { at, CONTRACT, checkAnswer, type Endpoint, EVERYWHERE, openApiDocument, PATHS, SOMEWHERE } from ".";

const endpoints: [string, Endpoint][] = Object.entries(CONTRACT);

describe("the contract", () => {
  it("describes itself as valid OpenAPI 3.1, with every endpoint in it once", async () => {
    const document = openApiDocument() as {
      openapi: string;
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    expect(document.openapi).toBe("3.1.0");
    expect(await validate(structuredClone(document) as never)).toMatchObject({ valid: true });
    const ids = Object.values(document.paths).flatMap((path) =>
      Object.values(path).map(({ operationId }) => operationId),
    );
    expect(ids.sort()).toEqual(endpoints.map(([name]) => name).sort());
  });

  it("would not be valid if a name in a path were not described", async () => {
    const document = structuredClone(openApiDocument()) as {
      paths: Record<string, Record<string, { parameters: unknown[] }>>;
    };
    document.paths[PATHS.project].get.parameters = [];
    expect(await validate(document as never)).toMatchObject({ valid: false });
  });

  it("names in each path what the endpoint’s schema names, and uses every path", () => {
    for (const [, { path, params }] of endpoints) {
      const named = [...PATHS[path].matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
      expect(named).toEqual(Object.keys(params?.shape ?? {}));
    }
    expect(new Set(endpoints.map(([, { path }]) => path))).toEqual(new Set(Object.keys(PATHS)));
    expect(new Set(endpoints.map(([, { method, path }]) => `${method} ${path}`)).size).toBe(endpoints.length);
  });

  it("says of every problem when it comes", () => {
    for (const [name, { problems = [] }] of endpoints)
      for (const status of problems) {
        expect(SOMEWHERE[status], `${status} of ${name}`).toMatch(/\.$/);
        expect(EVERYWHERE[status]).toBeUndefined();
      }
  });

  it("fills names into a path as an address needs them", () => {
    expect(at("projects")).toBe("/api/projects");
    expect(at("readings", { id: "a/b", tape: "tape-1" })).toBe("/api/projects/a%2Fb/tapes/tape-1/readings");
  });

  it("takes an answer that is as agreed, and no other", () => {
    expect(checkAnswer("replaceProject", 200, { revision: 3 })).toEqual({ revision: 3 });
    expectTypeOf(checkAnswer("replaceProject", 200, { revision: 3 })).toEqualTypeOf<{ revision: number }>();
    expect(() => checkAnswer("replaceProject", 200, { revision: "3" })).toThrow(z.ZodError);
    expect(() => checkAnswer("addProject", 201, { id: "a", more: 1 })).toThrow(z.ZodError);
    expect(() => checkAnswer("markOpened", 204, {})).toThrow("markOpened does not answer 204 with JSON");
  });
});
