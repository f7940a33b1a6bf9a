import { called, OF_CAMERAS, type SideFacts } from "./facts";

const C: Readonly<Record<string, string>> = {
  with_number: `/* A whole number between two texts; it stands until the next one. */
static inline const char *with_number(const char *before, double number, const char *after) {
  static char words[512];
  snprintf(words, sizeof words, "%s%.0f%s", before, number + 0.0, after);
  return words;
}`,
  colour_text: `/* A colour 0xRRGGBB like #e4573d, an empty text for one below 0; it stands until the next one. */
static inline const char *colour_text(int colour) {
  static char words[8];
  words[0] = 0;
  if (colour >= 0) snprintf(words, sizeof words, "#%06x", (unsigned)colour & 0xffffffu);
  return words;
}`,
};

/** As delivered it prints what is to be done. */
export function cSide(facts: SideFacts): string[] {
  const read = facts.sensors.filter(({ channels }) => channels > 0);
  return `
/*
 * --- The robot's side: what to fill in for another robot ---
 *
 * As it stands it prints what the robot is to do, a JSON object a line. With PERCEPTUM_OWN_ROBOT defined none of it is
 * here, and you write these functions. Call in a loop:
 *
 *     start_moment(ms, left_mm, right_mm);
${facts.sensors.map(({ own, channels }) => ` *     take_${own}(${["first", "second", "third", "fourth"].slice(0, channels).join(", ")});`).join("\n")}
 *     end_moment();
${facts.sensors.length > read.length ? ` *\n * ${OF_CAMERAS[Number(facts.looks)]}\n` : ""} */
#ifndef PERCEPTUM_OWN_ROBOT
/* A text as JSON writes it. */
static inline void print_words(const char *words) {
  putchar('"');
  for (; *words != 0; words++) {
    if (*words == '"' || *words == '\\\\') putchar('\\\\');
    putchar(*words);
  }
  putchar('"');
}

${called("c", C, facts).join("\n\n")}

/* Something happened: a line for the log. */
static inline void robot_note(const char *kind, const char *what, const char *more, const char *also, double number) {
  (void)number;
  fprintf(stderr, "%.0f ms %s %s %s %s\\n", now, kind, what, more, also);
}
#endif
`
    .trimEnd()
    .split("\n");
}

/** A program that reads moments and does what is to be done in each. */
export function cMain(facts: SideFacts): string[] {
  const read = facts.sensors.filter(({ channels }) => channels > 0);
  const most = Math.max(1, ...read.map(({ channels }) => channels));
  return `
#ifdef PERCEPTUM_MAIN
/*
 * Each line of the standard input is a moment: the time in ms, the ways of both wheels in mm, the number of a sensor
 * (${read.map(({ id }, i) => `${facts.sensors.findIndex((s) => s.id === id)} ${id}${i < read.length - 1 ? ", " : ""}`).join("")}) and its raw values in wire order.
 */
int main(void) {
  double ms, left, right;
  int sensor;
  while (!has_finished && scanf("%lf %lf %lf %d", &ms, &left, &right, &sensor) == 4) {
    static const int channels[] = { ${facts.sensors.map(({ channels }) => channels).join(", ")} };
    double v[${most}] = { 0 };
    if (sensor < 0 || sensor >= ${facts.sensors.length}) return 1;
    for (int i = 0; i < channels[sensor]; i++) if (scanf("%lf", &v[i]) != 1) return 1;
    start_moment(ms, left, right);
    switch (sensor) {
${read.map(({ own, id, channels }) => `      case ${facts.sensors.findIndex((s) => s.id === id)}: take_${own}(${Array.from({ length: channels }, (_, i) => `v[${i}]`).join(", ")}); break;`).join("\n")}
    }
    end_moment();
  }
  return 0;
}
#endif
`
    .trimEnd()
    .split("\n");
}
