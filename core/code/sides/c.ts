import { called, OF_CAMERAS, type SideFacts } from "./facts";

const C: Readonly<Record<string, string>> = {
  robot_wheels: `/* Runs the wheels at shares of top speed, -1 to 1. */
static inline void robot_wheels(double left, double right) {
  printf("{\\"wheels\\": [%.17g, %.17g]}\\n", left, right);
}`,
  robot_stop: `/* Stops the wheels: brake or coast. */
static inline void robot_stop(const char *how) {
  printf("{\\"stop\\": \\"%s\\"}\\n", how);
}`,
  robot_lamp: `/* Lights a lamp in a colour like #e4573d; an empty one switches it off. */
static inline void robot_lamp(const char *lamp, const char *colour, double blink_hz) {
  printf("{\\"lamp\\": \\"%s\\", \\"rgb\\": ", lamp);
  if (colour[0] == 0) printf("null"); else print_words(colour);
  printf(", \\"blink\\": %.17g}\\n", blink_hz);
}`,
  robot_tone: `/* Sounds a tone; the behaviour goes on meanwhile. */
static inline void robot_tone(double hertz, double ms) {
  printf("{\\"tone\\": %.17g, \\"ms\\": %.17g}\\n", hertz, ms);
}`,
  robot_tune: `/* Plays tones one after the other; 0 hertz is a rest. */
static inline void robot_tune(int first, int count) {
  printf("{\\"tune\\": [");
  for (int i = 0; i < count; i++)
    printf("%s[%.17g, %.17g]", i == 0 ? "" : ", ", ROWS[first + 2 * i], ROWS[first + 2 * i + 1]);
  printf("]}\\n");
}`,
  robot_say: `/* Speaks words, or plays a sound of that name. */
static inline void robot_say(const char *words) {
  printf("{\\"say\\": ");
  print_words(words);
  printf("}\\n");
}`,
  robot_show: `/* Writes on the display. */
static inline void robot_show(const char *words) {
  printf("{\\"show\\": ");
  print_words(words);
  printf("}\\n");
}`,
  robot_picture: `/* Shows a picture on the display. */
static inline void robot_picture(const char *picture) {
  printf("{\\"picture\\": \\"%s\\"}\\n", picture);
}`,
  robot_servo: `/* Turns a servo to an angle; the behaviour goes on meanwhile. */
static inline void robot_servo(const char *servo, double degrees, double degrees_per_second) {
  printf("{\\"servo\\": \\"%s\\", \\"to\\": %.17g, \\"dps\\": %.17g}\\n", servo, degrees, degrees_per_second);
}`,
  robot_gate: `/* Opens or closes a gate. */
static inline void robot_gate(const char *gate, bool is_open) {
  printf("{\\"gate\\": \\"%s\\", \\"open\\": %s}\\n", gate, is_open ? "true" : "false");
}`,
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

${called(C, facts).join("\n\n")}

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
