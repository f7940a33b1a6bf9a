import { afterEach, describe, expect, it, vi } from "vitest";
import { failureText, fetchUntouched, problemIn } from "./api";
import { addProject, fetchProjects } from "./list";

afterEach(() => vi.unstubAllGlobals());
const answering = (body: unknown, status = 200) =>
  vi.stubGlobal("fetch", async () => new Response(typeof body === "string" ? body : JSON.stringify(body), { status }));
const summary = { id: "a", name: "A", revision: 1, createdAt: 1, updatedAt: 1, openedAt: null, paints: [] };

describe("an answer of the server", () => {
  it("is taken where it is what the contract says", async () => {
    answering([summary]);
    expect(await fetchProjects()).toEqual([summary]);
    expect(await fetchUntouched()).toBe("a");
    answering([{ ...summary, openedAt: 5 }]);
    expect(await fetchUntouched()).toBeUndefined();
  });

  it.each([
    ["of another form", [{ ...summary, revision: "1" }]],
    ["no JSON", "<html>"],
    ["with more than is said", [{ ...summary, more: true }]],
  ])("is refused with a sentence where it is %s", async (_, body) => {
    answering(body);
    await expect(fetchProjects()).rejects.toThrow("the server answered something that this page does not understand");
  });

  it("tells its problem, or its status where it tells none", async () => {
    answering({ type: "about:blank", title: "Too large", status: 413, detail: "the file is too large" }, 413);
    await expect(addProject({} as never)).rejects.toThrow("the file is too large");
    expect(await problemIn(new Response("<html>", { status: 502 }))).toEqual({ detail: "the server answered 502" });
    expect(failureText(new Error("it is so"))).toBe("It is so.");
    expect(failureText("As it was said.")).toBe("As it was said.");
  });
});
