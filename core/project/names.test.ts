import { describe, expect, it } from "vitest";
import { demos } from "../../trials/demos";
import type { NameKind } from "../behaviour";
import { numbered } from "../names";
import { missingNames } from "./missingNames";
import { renamedUses, tellUses, usesOfName, visitNames } from "./names";

const [document] = demos;

describe("the names in a project", () => {
  it.each(demos.map((demo) => [demo.name, demo] as const))(
    "of %s are all there, and looking changes nothing",
    (_, demo) => {
      const seen = new Map<NameKind, Set<string>>();
      const same = visitNames(demo, (kind, id) => {
        seen.set(kind, (seen.get(kind) ?? new Set()).add(id));
        return id;
      });
      expect(same).toEqual(demo);
      expect(missingNames(demo)).toEqual([]);
      expect(seen.get("target")?.size).toBeGreaterThan(3);
      expect(seen.get("rule set")).toEqual(new Set(demo.sensors.map((s) => s.ruleSet)));
    },
  );

  it("change with a renaming wherever they stand, and back again", () => {
    const kinds: [NameKind, string][] = [
      ["target", document.targets[0].id],
      ["sensor", document.sensors[0].id],
      ["mode", document.behaviour.modes[1].id],
      ["counter", "tally"],
      ["routine", document.behaviour.routines[0].id],
      ["light", document.lights[0].id],
      ["rule set", document.ruleSets[0].id],
    ];
    for (const [kind, id] of kinds) {
      const uses = usesOfName(document, kind, id);
      expect(uses.length, kind).toBeGreaterThan(0);
      const renamed = renamedUses(document, kind, id, "another-name");
      expect(usesOfName(renamed, kind, id)).toEqual([]);
      expect(usesOfName(renamed, kind, "another-name")).toEqual(uses);
      // Every place is now said to name what is not there.
      expect(missingNames(renamed).filter((gap) => gap.message.includes("another-name"))).toHaveLength(uses.length);
      expect(renamedUses(renamed, kind, "another-name", id)).toEqual(document);
    }
  });

  it("are told in a person's words, each place once", () => {
    expect(tellUses(document, "mode", document.behaviour.modes[1].id)).toEqual(
      expect.arrayContaining([`the mode ${document.behaviour.modes[0].name}`]),
    );
    expect(tellUses(document, "sensor", document.sensors[0].id)).toEqual(
      expect.arrayContaining([`the tape ${document.tapes[0].name}`, "the robot"]),
    );
    expect(tellUses(document, "light", document.lights[0].id)).toEqual(
      expect.arrayContaining([`marks of ${document.tapes[0].name}`]),
    );
    expect(tellUses(document, "lamp", "none such")).toEqual([]);
  });

  it("of a target are told with all their uses", () => {
    expect(tellUses(document, "target", document.targets[0].id)).toEqual([
      "a rule",
      "marks of Aisle walk, overcast",
      "marks of Aisle walk, noon sun",
      "the mode Patrol",
      "the mode Along the line",
      "the routine Water",
      "the course Aisle",
      "checks of Aisle",
      "the course Chalk walk",
    ]);
  });

  it("that a nearest reference or a sensor's code holds are uses, too", () => {
    const [set] = document.ruleSets;
    const [coral] = document.targets;
    const bare = {
      ...document,
      ruleSets: [
        {
          ...set,
          rules: [],
          nearest: { reject: 1, references: numbered("reference", [{ target: coral.id, hue: 3, sat: 1, val: 1 }]) },
        },
      ],
      sensors: [{ ...document.sensors[0], codes: { "7": coral.id } }],
      tapes: [],
      courses: [],
      behaviour: { ...document.behaviour, modes: [], routines: [] },
    };
    expect(tellUses(bare, "target", coral.id)).toEqual([document.sensors[0].name, "a reference"]);
  });
});
