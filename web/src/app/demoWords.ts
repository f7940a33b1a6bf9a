/** Tells by a demo's name what it shows and what there is to try in it: one that was renamed needs no telling. */
export const DEMO_WORDS: Readonly<Record<string, string>> = {
  "Glasshouse round":
    "A cart answers coloured tags along an aisle. In noon sun it takes a terracotta rim for coral: find out why, and mend it.",
  "Route cards": "Cards that are held before a sensor are noted, and driven in their order. Hold up others.",
  "Pipe-rail carrier": "A carrier runs along pipes and misses its amber plate. Prove says by how far.",
  "Potting shed": "Rims come along a belt and fall into crates. One comes too close behind another: send it instead.",
  "Bed watch": "A camera follows a chalk line, turns at teal and backs off from a coral box. See what dusk does.",
};
