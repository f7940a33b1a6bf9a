import { called, OF_CAMERAS, type SideFacts } from "./facts";

const PYTHON: Readonly<Record<string, string>> = {
  with_number: `def with_number(before, number, after):
    """A whole number between two texts."""
    return before + str(int(number)) + after`,
  colour_text: `def colour_text(colour):
    """A colour 0xRRGGBB like #e4573d; an empty text for one below 0."""
    return "#%06x" % int(colour) if colour >= 0 else ""`,
};

/** As delivered it speaks the protocol over standard input and output. */
export function pythonSide(facts: SideFacts): string[] {
  const takes = facts.sensors.flatMap(({ own, id, name, channels }) =>
    channels === 0
      ? []
      : [
          [name, own, channels],
          [id, own, channels],
        ],
  );
  const cameras = facts.sensors.filter(({ channels }) => channels === 0);
  return `
# --- The robot's side: what to fill in for another robot ---
#
# As it stands it speaks the protocol: a robot's readings come in, commands go out, a JSON object a line. On a robot
# of your own let these functions do it, and call in a loop:
#
#     start_moment(ms, left_mm, right_mm)
${facts.sensors.map(({ own, channels }) => `#     take_${own}(${["first", "second", "third", "fourth"].slice(0, channels).join(", ")})`).join("\n")}
#     end_moment()
${cameras.length > 0 ? `#\n# ${OF_CAMERAS[Number(facts.looks)]}\n` : ""}
import json
import sys
import time


def tell(line):
    """Tells the robot something."""
    sys.stdout.write(json.dumps(line) + "\\n")
    sys.stdout.flush()


${called("python", PYTHON, facts).join("\n\n\n")}


def robot_note(kind, what, more, also, number):
    """Something happened: a line for the log."""
    words = " ".join(word for word in (kind, what, more, also) if word)
    sys.stderr.write("%.0f ms %s\\n" % (now, words))


def clock_ms():
    """A clock, for lines that say no time."""
    return time.time() * 1000.0


TAKES = {
${takes.map(([id, own, channels]) => `    ${JSON.stringify(id)}: (take_${own}, ${channels}),`).join("\n")}
}
CAMERAS = {
${cameras.flatMap(({ own, id, name, camera }) => (camera === undefined ? [] : [name, id].map((known) => `    ${JSON.stringify(known)}: (take_${own}, ${camera.first}, ${camera.setPoint}, ${camera.halfFrame}),`))).join("\n")}
}
ALIVE_MS = 500.0


class Line:
    """A robot's lines as moments: those of one time belong together."""

    def __init__(self):
        self.readings = []
        self.presses = []
        self.way = [0.0, 0.0]
        self.next_way = None
        self.alive = 0
        self.stranger = False

    def moment(self, t, readings):
        start_moment(t, self.way[0], self.way[1])
        for take, values in readings:
            take(*values)
        end_moment()
        lived(t)
        if t >= self.alive * ALIVE_MS and not has_finished:
            self.alive += 1
            tell({"alive": self.alive})

    def settle(self):
        t, readings, self.readings = open_ms, self.readings, []
        if t != t:  # nothing came
            return
        idle = idle_before(t, False)
        while idle == idle:
            self.moment(idle, [])
            idle = idle_before(t, False)
        # What was before the line counts until its moment.
        self.way, self.next_way = self.next_way or self.way, None
        for button, is_down in self.presses:
            press(button, is_down)
        self.presses = []
        self.moment(t, readings)

    def take(self, message):
        if "hello" in message:
            self.stranger = message.get("version") != 1
        if self.stranger:
            raise ValueError("the robot speaks another version: nothing of it is taken")
        if "hello" in message:
            return
        if "blobs" in message:
            take, values = CAMERAS[message["s"]][0], []
            found = dict((NAMES.index(target), blob) for target, blob in message["blobs"].items())
        elif "s" in message:
            take, count = TAKES[message["s"]]
            values = [float(x) for x in message["v"]]
            if len(values) != count:
                raise ValueError("%s has %d values" % (message["s"], count))
        elif "e" not in message and "button" not in message and "ask" not in message:
            raise ValueError("the line says nothing that is known")
        at = message.get("t")
        t = time_of_line(float(clock_ms() if at is None else at))
        if open_ms != t:
            self.settle()
        if "s" in message:
            # One moment brings one reading of a sensor.
            if any(known is take for known, _ in self.readings):
                self.settle()
            self.readings.append((take, values))
${
  cameras.length > 0
    ? `            if "blobs" in message:
                self.see(found, *CAMERAS[message["s"]][1:])
`
    : ""
}        elif "e" in message:
            self.next_way = [float(x) for x in message["e"]]
        elif "button" in message and message["button"] in IDS_OF_BUTTONS:
            self.presses.append((IDS_OF_BUTTONS.index(message["button"]), message["down"]))
        open_moment(t)
        if "ask" in message:
            self.settle()
            done = {"done": message["ask"]}
            if has_finished:
                done["finished"] = True
            tell(done)
${
  cameras.length > 0
    ? `
    def see(self, found, first, set_point, half_frame):
        """The largest blobs of a frame: left, top, width, height, area."""
        for label in range(1, len(NAMES)):
            left, top, width, height, area = found.get(label, (0, 0, 0, 0, 0))
            x = left + (width - 1) / 2.0
            y = top + (height - 1) / 2.0
            place = (first + label - 1) * BLOB_CELLS
            blobs[place:place + BLOB_CELLS] = [area, width, height, x, y, x - set_point, half_frame]
`
    : ""
}

def main():
    line = Line()
    for number, words in enumerate(sys.stdin):
        if not words.strip():
            continue
        try:
            line.take(json.loads(words))
        except (ValueError, KeyError, TypeError) as error:
            tell({"error": str(error) or "the line cannot be read", "line": number + 1})
        if has_finished:
            break
    line.settle()


if __name__ == "__main__":
    main()
`
    .trimEnd()
    .split("\n");
}
