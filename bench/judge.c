/*
 * The same work as classifyBlock in plain C, for comparison: reads rules and features from a file, labels all
 * readings several times, prints the best time in ns a reading and a checksum of the labels.
 */
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

typedef struct { int64_t feature; double from, to; } Test;

static double now(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e9 + t.tv_nsec;
}

int main(int argc, char **argv) {
  int64_t head[4]; /* readings, features, rules, tests a rule */
  FILE *in = fopen(argv[argc - 1], "rb");
  if (!in || fread(head, sizeof head, 1, in) != 1) return 1;
  const int64_t n = head[0], features = head[1], rules = head[2], per = head[3];
  Test *tests = malloc(rules * per * sizeof(Test));
  double *columns = malloc(n * features * sizeof(double));
  uint8_t *labels = malloc(n);
  if (fread(tests, sizeof(Test), rules * per, in) != (size_t)(rules * per)) return 1;
  if (fread(columns, sizeof(double), n * features, in) != (size_t)(n * features)) return 1;
  double best = 1e300;
  for (int round = 0; round < 15; round++) {
    const double start = now();
    for (int64_t i = 0; i < n; i++) {
      uint8_t label = 0;
      for (int64_t r = 0; r < rules && label == 0; r++) {
        int holds = 1;
        for (int64_t t = 0; t < per && holds; t++) {
          const Test *test = &tests[r * per + t];
          const double x = columns[test->feature * n + i];
          holds = test->from > test->to ? x >= test->from || x <= test->to : x >= test->from && x <= test->to;
        }
        if (holds) label = (uint8_t)(r + 1);
      }
      labels[i] = label;
    }
    const double took = (now() - start) / n;
    if (took < best) best = took;
  }
  uint64_t sum = 0;
  for (int64_t i = 0; i < n; i++) sum = sum * 31 + labels[i];
  printf("%.3f %llu\n", best, (unsigned long long)sum);
  return 0;
}
