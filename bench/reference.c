/* The plain way to build a stroke of round dabs, one pixel after the other, on one thread, on a page that is cleared
 * first: what bin/bench holds the core against, built plainly (-O2) and tuned (-O3 -march=native -fno-math-errno
 * -fno-trapping-math). With "cached" the mask is computed once and only laid: the floor of any way that keeps masks,
 * which wants all centres on whole pixels.
 *   ./a.out DABS SIZE [cached] → milliseconds of processor time, and a pixel to tell that it was done. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

#define WIDTH 1000
#define HEIGHT 300
static float alpha[HEIGHT][WIDTH];
static float mask[1024 * 1024];

static double now(void) {
  struct timespec t;
  clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &t);
  return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static float cover(float dx, float dy, float core, float width) {
  float t = (sqrtf(dx * dx + dy * dy) - core) / width;
  t = t < 0 ? 0 : t > 1 ? 1 : t;
  return 1 - t * t * (3 - 2 * t);
}

static void dab(float cx, float cy, float radius, float hardness, float flow, float ceiling) {
  float core = radius * hardness, width = radius - core;
  int left = fmaxf(0, floorf(cx - radius - 1)), right = fminf(WIDTH, ceilf(cx + radius + 1));
  int top = fmaxf(0, floorf(cy - radius - 1)), bottom = fminf(HEIGHT, ceilf(cy + radius + 1));
  for (int y = top; y < bottom; y++)
    for (int x = left; x < right; x++) {
      float room = ceiling - alpha[y][x];
      room = room > 0 ? room : 0;
      alpha[y][x] += cover(x + 0.5f - cx, y + 0.5f - cy, core, width) * flow * room;
    }
}

static void laid(int cx, int cy, int side, float flow, float ceiling) {
  int left = cx - side / 2, top = cy - side / 2;
  for (int y = 0; y < side; y++) {
    if (top + y < 0 || top + y >= HEIGHT) continue;
    for (int x = 0; x < side; x++) {
      if (left + x < 0 || left + x >= WIDTH) continue;
      float *there = &alpha[top + y][left + x], room = ceiling - *there;
      *there += mask[y * side + x] * flow * (room > 0 ? room : 0);
    }
  }
}

int main(int argc, char **argv) {
  int count = argc > 1 ? atoi(argv[1]) : 400, cached = argc > 3 && !strcmp(argv[3], "cached");
  float size = argc > 2 ? atof(argv[2]) : 80, radius = size / 2, hardness = 0.5f;
  int side = (int)ceilf(size) + 2;
  double best = 1e9;
  for (int y = 0; y < side; y++)
    for (int x = 0; x < side; x++)
      mask[y * side + x] = cover(x + 0.5f - side / 2.0f, y + 0.5f - side / 2.0f, radius * hardness, radius * (1 - hardness));
  for (int round = 0; round < 7; round++) {
    double began = now();
    memset(alpha, 0, sizeof alpha);
    for (int i = 0; i < count; i++) {
      float x = 150 + i * 680.0f / count, y = 150 + 20 * sinf(i * 0.1f);
      if (cached) laid(x, y, side, 0.3f, 1);
      else dab(x, y, radius, hardness, 0.3f, 1);
    }
    double took = now() - began;
    if (took < best) best = took;
  }
  printf("%.4f %g\n", best, alpha[150][500]);
  return 0;
}
