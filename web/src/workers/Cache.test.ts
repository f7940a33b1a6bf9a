import { expect, it } from "vitest";
import { Cache } from "./Cache";

it("a cache keeps what was used last, up to a weight", () => {
  const cache = new Cache<number>(10, (weight) => weight);
  cache.set("a", 4);
  cache.set("b", 4);
  expect(cache.get("a")).toBe(4);
  // b was used longest ago.
  cache.set("c", 4);
  expect([cache.get("a"), cache.get("b"), cache.get("c")]).toEqual([4, undefined, 4]);
  // What takes the place of itself counts once; what is too heavy stays alone.
  cache.set("c", 6);
  expect([cache.get("a"), cache.get("c")]).toEqual([4, 6]);
  cache.set("d", 99);
  expect([cache.get("a"), cache.get("c"), cache.get("d")]).toEqual([undefined, undefined, 99]);
});
