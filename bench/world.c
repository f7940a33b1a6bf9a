/*
 * The floor world of a run in plain C, for comparison: ticks, motion, spots, noise, readings and labels of a cart that
 * is told what a run's behaviour told it. Reads all of it as doubles from a file, makes the runs several times, writes
 * poses, readings and labels to another file, and prints the best time in ns for all runs together.
 */
#include <math.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

#define PI 3.14159265358979323846
#define CELL 100
#define RING 18

static double now(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e9 + t.tv_nsec;
}

static double *data;
static double next(void) { return *data++; }

/* --- Numbers: exact sines, the generator, the normal distribution --- */

static double sine_near(double x) {
  const double s = x * x;
  return x * (1 - (s / 6) * (1 - (s / 20) * (1 - (s / 42) * (1 - (s / 72) * (1 - (s / 110) * (1 - s / 156))))));
}
static double cosine_near(double x) {
  const double s = x * x;
  return 1 - (s / 2) * (1 - (s / 12) * (1 - (s / 30) * (1 - (s / 56) * (1 - (s / 90) * (1 - (s / 132) * (1 - s / 182))))));
}
static double rounded(double x) {
  const double down = floor(x);
  return x - down >= 0.5 ? down + 1 : down;
}
static void sin_cos(double degrees, double *sine, double *cosine) {
  const double quarter = rounded(degrees / 90);
  const double x = (degrees - quarter * 90) * (PI / 180);
  const double s = sine_near(x), c = cosine_near(x);
  const int turn = (int)fmod(fmod(quarter, 4) + 4, 4);
  *sine = turn == 0 ? s : turn == 1 ? c : turn == 2 ? -s : -c;
  *cosine = turn == 0 ? c : turn == 1 ? -s : turn == 2 ? -c : s;
}

typedef struct { uint32_t s01, s00, s11, s10; } Chance;

static uint32_t mixed(uint32_t h) {
  h = (h ^ (h >> 16)) * 0x85ebca6bu;
  h = (h ^ (h >> 13)) * 0xc2b2ae35u;
  return h ^ (h >> 16);
}
static Chance chance(uint32_t seed, const char *use) {
  uint32_t name = 0x811c9dc5u, words[4];
  const uint32_t length = (uint32_t)strlen(use);
  for (const char *c = use; *c; c++) name = (name ^ (uint8_t)*c) * 0x01000193u;
  for (uint32_t k = 1; k <= 4; k++) words[k - 1] = mixed(mixed(mixed(mixed(name + k * 0x9e3779b9u) ^ length)) ^ seed);
  return (Chance){ words[0], words[1], words[2], words[3] | 1 };
}
static double uniform(Chance *g) {
  const uint32_t out = g->s00 + g->s10, a0 = g->s10 ^ g->s00, a1 = g->s11 ^ g->s01, s00 = g->s00, s01 = g->s01;
  g->s00 = s00 << 24 ^ s01 >> 8 ^ a0 ^ a0 << 16;
  g->s01 = s01 << 24 ^ s00 >> 8 ^ a1 ^ (a1 << 16 | a0 >> 16);
  g->s10 = a1 << 5 ^ a0 >> 27;
  g->s11 = a0 << 5 ^ a1 >> 27;
  return (out + 0.5) / 4294967296.0;
}
static double natural_log(double x) {
  int halvings = 0;
  while (x < 0.5) { x *= 2; halvings++; }
  const double z = (x - 1) / (x + 1), s = z * z;
  double sum = 0;
  for (int k = 25; k >= 1; k -= 2) sum = sum * s + 1.0 / k;
  return 2 * z * sum - halvings * 0.6931471805599453;
}
static double tail(double q) {
  return (((((-7.784894002430293e-3 * q + -3.223964580411365e-1) * q + -2.400758277161838) * q + -2.549732539343734) * q +
           4.374664141464968) * q + 2.938163982698783) /
         ((((7.784695709041462e-3 * q + 3.224671290700398e-1) * q + 2.445134137142996) * q + 3.754408661907416) * q + 1);
}
static double normal(Chance *g) {
  const double p = uniform(g);
  if (p < 0.02425) return tail(sqrt(-2 * natural_log(p)));
  if (p > 1 - 0.02425) return -tail(sqrt(-2 * natural_log(1 - p)));
  const double q = p - 0.5, r = q * q;
  return ((((((-3.969683028665376e1 * r + 2.209460984245205e2) * r + -2.759285104469687e2) * r + 1.38357751867269e2) * r +
            -3.066479806614716e1) * r + 2.506628277459239) * q) /
         (((((-5.447609879822406e1 * r + 1.615858368580409e2) * r + -1.556989798598866e2) * r + 6.680131188771972e1) * r +
           -1.328068155288572e1) * r + 1);
}

/* --- The world, as the file has it --- */

typedef struct { double x, y, along, across, sine, cosine, paint[3]; } Patch;
typedef struct { double top_speed, dead_band, regulated, sign, driven, coasting; } Motor;
typedef struct {
  double ahead, left, spot, period, integration, read, shot, steps, gain[3], glare[3], lit[3], low[3], span[3], dark[3], white[3];
  char use[64];
} Eye;
typedef struct { int feature; double from, to; } Test;
typedef struct { double goal, keep, rim, ground, travel, factor; } Wheel;

static int ticks, eyes, patches, rules, columns, rows;
static double tick_ms, track, traction, start_x, start_y, start_heading, size_x, size_y, ground[3];
static Patch *patch;
static Eye eye[8];
static Motor motor[2];
static Test (*test)[3];
static double ring_x[RING], ring_y[RING];
/* Patches that a spot at a cell may touch, the topmost first, and how many. */
static int *cells, *counts;

static double depth(const Patch *p, double x, double y) {
  const double dx = x - p->x, dy = y - p->y;
  const double along = p->along - fabs(dx * p->cosine + dy * p->sine);
  const double across = p->across - fabs(dy * p->cosine - dx * p->sine);
  return along < across ? along : across;
}
static void build_cells(double widest) {
  columns = (int)(size_x / CELL) + 3;
  rows = (int)(size_y / CELL) + 3;
  memset(counts, 0, sizeof(int) * columns * rows);
  for (int i = patches - 1; i >= 0; i--) {
    const Patch *p = &patch[i];
    const double rx = fabs(p->cosine) * p->along + fabs(p->sine) * p->across + widest / 2;
    const double ry = fabs(p->sine) * p->along + fabs(p->cosine) * p->across + widest / 2;
    for (int cx = (int)floor((p->x - rx) / CELL); cx <= (int)floor((p->x + rx) / CELL); cx++)
      for (int cy = (int)floor((p->y - ry) / CELL); cy <= (int)floor((p->y + ry) / CELL); cy++) {
        if (cx < -1 || cy < -1 || cx >= columns - 1 || cy >= rows - 1) continue;
        const int at = (cy + 1) * columns + cx + 1;
        cells[at * patches + counts[at]++] = i;
      }
  }
}

/* The mean reflectance of the spot at a place. */
static void spot_at(double x, double y, double wide, double out[3]) {
  const int at = ((int)floor(y / CELL) + 1) * columns + (int)floor(x / CELL) + 1;
  const int *own = &cells[at * patches], count = counts[at];
  const double radius = wide / 2;
  int first = 0;
  while (first < count && depth(&patch[own[first]], x, y) < -radius) first++;
  const double *paint = first < count ? patch[own[first]].paint : ground;
  if (first == count || depth(&patch[own[first]], x, y) >= radius) {
    memcpy(out, paint, 3 * sizeof(double));
    return;
  }
  double sum[3] = { 0, 0, 0 };
  for (int i = -1; i < RING; i++) {
    const double px = i < 0 ? x : x + ring_x[i] * radius, py = i < 0 ? y : y + ring_y[i] * radius;
    const double *here = ground;
    for (int k = first; k < count; k++)
      if (depth(&patch[own[k]], px, py) >= 0) { here = patch[own[k]].paint; break; }
    for (int c = 0; c < 3; c++) sum[c] += here[c];
  }
  for (int c = 0; c < 3; c++) out[c] = sum[c] / (RING + 1);
}

static void tell(Wheel *w, const Motor *m, double command) {
  const int still = isnan(command) || (m->regulated == 0 && fabs(command) < m->dead_band);
  w->goal = still ? 0 : command * m->top_speed * w->factor * m->sign;
  w->keep = isnan(command) ? m->coasting : m->driven;
}
static void turn(Wheel *w, const Motor *m, double seconds) {
  if (w->rim != w->goal || w->ground != w->goal) {
    const double most = traction * seconds;
    w->rim = w->goal + (w->rim - w->goal) * w->keep;
    if (fabs(w->goal - w->rim) < 1e-6) w->rim = w->goal;
    const double change = w->rim - w->ground;
    w->ground += change > most ? most : change < -most ? -most : change;
  }
  w->travel += w->rim * seconds * m->sign;
}

/* What a raw reading is taken for: the first rule of which all three bands hold. */
static int label_of(const Eye *e, const double raw[3]) {
  double f[3], rgb[3];
  for (int c = 0; c < 3; c++) {
    const double x = (raw[c] - e->dark[c]) / (e->white[c] - e->dark[c]);
    rgb[c] = x < 0 ? 0 : x > 1 ? 1 : x;
  }
  const double r = rgb[0], g = rgb[1], b = rgb[2];
  const double most = fmax(fmax(r, g), b), delta = most - fmin(fmin(r, g), b);
  if (!(delta >= 1.0 / 1024)) f[0] = NAN;
  else {
    const double sixth = most == r ? (g - b) / delta : most == g ? (b - r) / delta + 2 : (r - g) / delta + 4;
    f[0] = sixth * 60;
    if (f[0] < 0) f[0] += 360;
    if (f[0] >= 360) f[0] = 0;
  }
  f[1] = most == 0 ? 0 : delta / most;
  f[2] = most;
  for (int i = 0; i < rules; i++) {
    int holds = 1;
    for (int k = 0; k < 3 && holds; k++) {
      const Test *t = &test[i][k];
      const double x = f[t->feature];
      holds = t->from <= t->to ? x >= t->from && x <= t->to : x >= t->from || x <= t->to;
    }
    if (holds) return i + 1;
  }
  return 0;
}

/* One run: what it was told is `count` times tick, left and right. Gives where its results end. */
static double *run(uint32_t seed, const double *told, int count, double *out) {
  Chance motors = chance(seed, "motors"), noise[8];
  Wheel wheel[2];
  memset(wheel, 0, sizeof wheel);
  double x = start_x, y = start_y, heading = start_heading, sine, cosine, widest = 0;
  double sum[8][3] = { { 0 } }, next_at[8] = { 0 }, looks_after[8];
  int samples[8] = { 0 };
  for (int k = 0; k < 2; k++) {
    const double off = 0.04 * (2 * uniform(&motors) - 1);
    wheel[k].factor = motor[k].regulated != 0 ? 1 : 1 + off;
    wheel[k].keep = motor[k].driven;
  }
  for (int i = 0; i < eyes; i++) {
    noise[i] = chance(seed, eye[i].use);
    looks_after[i] = -INFINITY;
    if (eye[i].spot > widest) widest = eye[i].spot;
  }
  build_cells(widest);
  sin_cos(heading, &sine, &cosine);
  const double seconds = tick_ms / 1000;
  for (int tick = 0; tick < ticks; tick++) {
    const double t = tick * tick_ms;
    *out++ = x;
    *out++ = y;
    *out++ = heading;
    for (int i = 0; i < eyes; i++) {
      if (t <= looks_after[i]) continue;
      const Eye *e = &eye[i];
      double paint[3], raw[3];
      spot_at(x + e->ahead * cosine - e->left * sine, y + e->ahead * sine + e->left * cosine, e->spot, paint);
      for (int c = 0; c < 3; c++) sum[i][c] += e->gain[c] * (paint[c] * e->lit[c] + e->glare[c]);
      samples[i]++;
      if (t < next_at[i]) continue;
      next_at[i] += e->period;
      looks_after[i] = next_at[i] - e->integration;
      for (int c = 0; c < 3; c++) {
        const double signal = sum[i][c] / samples[i], light = signal > 0 ? signal : 0;
        double noisy = light + sqrt(e->read * e->read + e->shot * e->shot * light) * normal(&noise[i]);
        noisy = noisy < 0 ? 0 : noisy > 1 ? 1 : noisy;
        const double v = e->low[c] + rounded(noisy * e->steps) / e->steps * e->span[c];
        raw[c] = e->span[c] >= 50 ? rounded(v) : rounded(v * 1e4) / 1e4;
        *out++ = raw[c];
        sum[i][c] = 0;
      }
      samples[i] = 0;
      *out++ = label_of(e, raw);
    }
    for (; count > 0 && told[0] == tick; told += 3, count--)
      for (int k = 0; k < 2; k++) tell(&wheel[k], &motor[k], told[1 + k]);
    for (int k = 0; k < 2; k++) turn(&wheel[k], &motor[k], seconds);
    const double forward = (wheel[0].ground + wheel[1].ground) / 2 * seconds;
    const double turned = (wheel[1].ground - wheel[0].ground) / track * seconds * (180 / PI);
    if (turned == 0) {
      x += forward * cosine;
      y += forward * sine;
    } else {
      double s, c;
      sin_cos(heading + turned / 2, &s, &c);
      x += forward * c;
      y += forward * s;
      heading += turned;
      sin_cos(heading, &sine, &cosine);
    }
  }
  return out;
}

static void three(double to[3]) { for (int c = 0; c < 3; c++) to[c] = next(); }

int main(int argc, char **argv) {
  FILE *in = fopen(argv[argc - 2], "rb"), *to = fopen(argv[argc - 1], "wb");
  if (!in || !to) return 1;
  fseek(in, 0, SEEK_END);
  const long bytes = ftell(in);
  rewind(in);
  data = malloc(bytes);
  if (fread(data, 1, bytes, in) != (size_t)bytes) return 1;
  const int seeds = (int)next();
  ticks = (int)next();
  tick_ms = next();
  track = next();
  traction = next();
  start_x = next();
  start_y = next();
  start_heading = next();
  size_x = next();
  size_y = next();
  for (int k = 0; k < 2; k++) {
    motor[k].top_speed = next();
    motor[k].dead_band = next();
    motor[k].regulated = next();
    motor[k].sign = next();
    motor[k].driven = next();
    motor[k].coasting = next();
  }
  three(ground);
  patches = (int)next();
  patch = malloc(sizeof(Patch) * patches);
  for (int i = 0; i < patches; i++) {
    Patch *p = &patch[i];
    p->x = next();
    p->y = next();
    p->along = next() / 2;
    p->across = next() / 2;
    sin_cos(next(), &p->sine, &p->cosine);
    three(p->paint);
  }
  rules = (int)next();
  test = malloc(sizeof(*test) * rules);
  for (int i = 0; i < rules; i++)
    for (int k = 0; k < 3; k++) {
      test[i][k].feature = (int)next();
      test[i][k].from = next();
      test[i][k].to = next();
    }
  eyes = (int)next();
  for (int i = 0; i < eyes; i++) {
    Eye *e = &eye[i];
    e->ahead = next();
    e->left = next();
    e->spot = next();
    e->period = next();
    e->integration = next();
    e->read = next();
    e->shot = next();
    e->steps = next();
    three(e->gain);
    three(e->glare);
    three(e->lit);
    three(e->low);
    three(e->span);
    three(e->dark);
    three(e->white);
    const int length = (int)next();
    for (int k = 0; k < length && k < 63; k++) e->use[k] = (char)next();
  }
  for (int i = 0; i < RING; i++) {
    double s, c;
    const int inner = i < 6;
    sin_cos(inner ? i * 60 : (i - 6) * 30, &s, &c);
    const double radius = sqrt(inner ? 4.0 / 19 : 13.0 / 19);
    ring_x[i] = c * radius;
    ring_y[i] = s * radius;
  }
  const int room = ((int)(size_x / CELL) + 3) * ((int)(size_y / CELL) + 3);
  counts = malloc(sizeof(int) * room);
  cells = malloc(sizeof(int) * room * (patches > 0 ? patches : 1));
  const double *of_seeds = data;
  double *results = malloc(sizeof(double) * ticks * (3 + 4 * eyes) * seeds), *end = results;
  double best = 1e300;
  for (int round = 0; round < 7; round++) {
    const double began = now();
    const double *told = of_seeds;
    end = results;
    for (int s = 0; s < seeds; s++) {
      const int count = (int)told[0];
      end = run((uint32_t)s, told + 1, count, end);
      told += 1 + 3 * count;
    }
    const double took = now() - began;
    if (took < best) best = took;
  }
  fwrite(results, sizeof(double), end - results, to);
  fclose(to);
  printf("%.0f\n", best);
  return 0;
}
