import * as z from "zod";
import { Link } from "../live";
import { SensorIdSchema } from "../names";
import { editKind } from "./editKind";

/** A link, new or in the place of the one that has its id. */
export const setLink = editKind(
  { link: Link },
  {
    words: ({ link }, { links = [] }) => `link ${links.some(({ id }) => id === link.id) ? "changed" : "added"}`,
    apply(project, { link }) {
      const { links = [] } = project;
      const at = links.findIndex(({ id }) => id === link.id);
      return { ...project, links: at < 0 ? [...links, link] : links.with(at, link) };
    },
  },
);

/** The sensor that a robot means by a name of its own. */
export const nameRobotSensor = editKind(
  { link: Link.shape.id, name: z.string().min(1).max(80), sensor: SensorIdSchema },
  {
    words: ({ name }) => `sensor ${name} of the robot named`,
    apply: (project, { link, name, sensor }) => ({
      ...project,
      links: (project.links ?? []).map((one) =>
        one.id === link ? { ...one, sensors: { ...one.sensors, [name]: sensor } } : one,
      ),
    }),
  },
);
