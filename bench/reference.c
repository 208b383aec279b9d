/* The plain way to build a stroke of round dabs, one pixel after the other, on one thread: what
 * bin/bench holds the core against. cc -O2 reference.c -lm; ./a.out DABS SIZE → milliseconds. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

#define WIDTH 1000
#define HEIGHT 300
static float alpha[HEIGHT][WIDTH];

static double now(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static void dab(float cx, float cy, float radius, float hardness, float flow, float ceiling) {
  float core = radius * hardness, width = radius - core;
  int left = fmaxf(0, floorf(cx - radius - 1)), right = fminf(WIDTH, ceilf(cx + radius + 1));
  int top = fmaxf(0, floorf(cy - radius - 1)), bottom = fminf(HEIGHT, ceilf(cy + radius + 1));
  for (int y = top; y < bottom; y++)
    for (int x = left; x < right; x++) {
      float dx = x + 0.5f - cx, dy = y + 0.5f - cy, t = (sqrtf(dx * dx + dy * dy) - core) / width;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      float room = ceiling - alpha[y][x];
      if (room > 0) alpha[y][x] += (1 - t * t * (3 - 2 * t)) * flow * room;
    }
}

int main(int argc, char **argv) {
  int count = argc > 1 ? atoi(argv[1]) : 400, rounds = 5;
  float size = argc > 2 ? atof(argv[2]) : 80;
  double best = 1e9;
  for (int round = 0; round < rounds; round++) {
    double began = now();
    for (int i = 0; i < count; i++) dab(150 + i * 680.0f / count, 150 + 20 * sinf(i * 0.1f), size / 2, 0.5f, 0.3f, 1);
    double took = now() - began;
    if (took < best) best = took;
  }
  printf("%.4f %g\n", best, alpha[150][500]);
  return 0;
}
