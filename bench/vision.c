/*
 * The same work as FrameEye in plain C, for comparison: reads the labels of all colours and a frame, finds the cleaned
 * masks and blobs of all targets several times, prints the best time in ms a frame and a checksum of the blobs.
 */
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

enum { MARGIN = 20 };
typedef struct { int area, left, top, right, bottom, part; } Blob;

static int width, height, words, rows, at, from, to;
static uint32_t *mask;
static Blob *blobs;
static int *runs;

static double now(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static void besides(int bits, int first, int last, int all) {
  for (int row = first; row < last; row++) {
    uint32_t *w = mask + row * words;
    for (int i = 0; i < words; i++) {
      const uint32_t right = w[i] >> bits | (i + 1 < words ? w[i + 1] << (32 - bits) : 0);
      w[i] = all ? w[i] & right : w[i] | right;
    }
  }
}

static void below(int by, int first, int last, int all) {
  const int end = (last < rows - by ? last : rows - by) * words;
  for (int i = first * words; i < end; i++) {
    if (all) mask[i] &= mask[i + by * words];
    else mask[i] |= mask[i + by * words];
  }
}

static void swept(int n, int all) {
  if (n == 0) return;
  const int side = 2 * n + 1, first = at - n + (from > n ? from - n : 0), last = at + to;
  int taken = 1;
  for (; taken * 2 <= side; taken *= 2) besides(taken, first, last, all);
  if (taken < side) besides(side - taken, first, last, all);
  taken = 1;
  for (; taken * 2 <= side; taken *= 2) below(taken, first, last, all);
  if (taken < side) below(side - taken, first, last, all);
  at -= n;
  if (!all) {
    from = from - n < 0 ? 0 : from - n;
    to = to + n > height ? height : to + n;
  }
}

static int next(int row, int column, uint32_t flip) {
  const uint32_t *w = mask + (row + at) * words;
  int bit = column + at;
  uint32_t word = (w[bit >> 5] ^ flip) & (~0u << (bit & 31));
  while (word == 0) {
    bit = (bit | 31) + 1;
    if (bit >= width + at) return width;
    word = w[bit >> 5] ^ flip;
  }
  return (bit & ~31) + __builtin_ctz(word) - at;
}

static int whole(int blob) {
  while (blobs[blob].part != blob) blob = blobs[blob].part = blobs[blobs[blob].part].part;
  return blob;
}

static int find(void) {
  int count = 0, above = 0, above_end = 0, before = from - 2;
  for (int row = from; row < to; row++) {
    const int own = above_end;
    int end = own, up = before == row - 1 ? above : above_end;
    for (int column = 0; column < width;) {
      const int a = next(row, column, 0);
      if (a >= width) break;
      int b = next(row, a, ~0u);
      if (b > width) b = width;
      int blob = -1;
      while (up < above_end && runs[3 * up + 1] < a) up++;
      for (int k = up; k < above_end && runs[3 * k] <= b; k++) {
        const int touched = whole(runs[3 * k + 2]);
        if (blob < 0 || blob == touched) { blob = touched; continue; }
        const int keep = blob < touched ? blob : touched, gone = blob < touched ? touched : blob;
        Blob *x = blobs + keep, *y = blobs + gone;
        y->part = keep;
        x->area += y->area;
        if (y->left < x->left) x->left = y->left;
        if (y->top < x->top) x->top = y->top;
        if (y->right > x->right) x->right = y->right;
        if (y->bottom > x->bottom) x->bottom = y->bottom;
        blob = keep;
      }
      if (blob < 0) {
        blob = count++;
        blobs[blob] = (Blob){0, a, row, a, row + 1, blob};
      }
      Blob *x = blobs + blob;
      x->area += b - a;
      if (a < x->left) x->left = a;
      if (b > x->right) x->right = b;
      x->bottom = row + 1;
      runs[3 * end] = a;
      runs[3 * end + 1] = b;
      runs[3 * end + 2] = blob;
      end++;
      column = b;
    }
    if (end > own) {
      memmove(runs, runs + 3 * own, 3 * (end - own) * sizeof(int));
      above_end = end - own;
      before = row;
    }
  }
  return count;
}

static int later(const void *a, const void *b) {
  const Blob *x = a, *y = b;
  if (x->area != y->area) return y->area - x->area;
  return x->top != y->top ? x->top - y->top : x->left - y->left;
}

int main(int argc, char **argv) {
  int32_t head[5]; /* width, height, targets, clean, least area */
  FILE *in = fopen(argv[argc - 1], "rb");
  if (!in || fread(head, sizeof head, 1, in) != 1) return 1;
  width = head[0];
  height = head[1];
  const int targets = head[2], clean = head[3], least = head[4];
  uint8_t *table = malloc(1 << 24), *data = malloc(width * height * 3);
  if (fread(table, 1 << 24, 1, in) != 1 || fread(data, width * height * 3, 1, in) != 1) return 1;
  words = (width + 2 * MARGIN + 31) / 32;
  rows = height + 2 * MARGIN;
  uint32_t **masks = malloc((targets + 1) * sizeof *masks);
  for (int k = 0; k <= targets; k++) masks[k] = malloc(words * rows * 4);
  blobs = malloc((width / 2 + 1) * height * sizeof(Blob));
  runs = malloc(6 * (width + 2) * sizeof(int));
  double best = 1e300;
  uint64_t sum = 0;
  for (int round = 0; round < 60; round++) {
    const double start = now();
    sum = 0;
    for (int k = 1; k <= targets; k++) memset(masks[k], 0, words * rows * 4);
    for (int row = 0; row < height; row++) {
      const uint8_t *p = data + row * width * 3;
      for (int column = 0; column < width; column++, p += 3) {
        const uint8_t label = table[p[0] << 16 | p[1] << 8 | p[2]];
        const int bit = column + MARGIN;
        if (label) masks[label][(row + MARGIN) * words + (bit >> 5)] |= 1u << (bit & 31);
      }
    }
    for (int k = 1; k <= targets; k++) {
      mask = masks[k];
      at = MARGIN;
      from = 0;
      to = height;
      swept(clean, 1);
      swept(clean, 0);
      const int count = find();
      int kept = 0;
      for (int i = 0; i < count; i++)
        if (blobs[i].part == i && blobs[i].area >= least) blobs[kept++] = blobs[i];
      qsort(blobs, kept, sizeof(Blob), later);
      for (int i = 0; i < kept; i++)
        sum = sum * 31 + (uint64_t)blobs[i].area * 7 + blobs[i].left * 5 + blobs[i].top * 3 + blobs[i].right;
    }
    const double took = now() - start;
    if (took < best) best = took;
  }
  printf("%.4f %llu\n", best, (unsigned long long)sum);
  return 0;
}
