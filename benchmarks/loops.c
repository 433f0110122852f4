/*
 * Plain C loops of the stages that bend the wave, to compare their speed with: the same filters, curves and gains as the
 * product's kernels, one sample after the other. Reads f32 stereo (interleaved) from the file given, prints nanoseconds
 * per frame of each. Built by the bench with -O3 -march=native.
 */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

#define QUANTUM 128
#define HISTORY 68
#define MOST (QUANTUM * 16)

static const int COUNTS[4] = {60, 10, 6, 4}, LATE[4] = {30, 5, 4, 4};
/* From the middle outwards. */
static const float HALVES[4][30] = {
    {0.635921508f, -0.210119961f, 0.123873254f, -0.08617077f, 0.064690922f, -0.050628158f, 0.04060246f, -0.033041078f,
     0.027114211f, -0.022342846f, 0.018430678f, -0.015183745f, 0.01246871f, -0.010189761f, 0.008275187f, -0.00666922f,
     0.005326962f, -0.004211178f, 0.003290203f, -0.002536589f, 0.001926198f, -0.001437657f, 0.001051955f, -0.000752171f,
     0.000523353f, -0.000352325f, 0.000227632f, -0.000139372f, 0.000079174f, -0.000050283f},
    {0.613837933f, -0.152049265f, 0.048782918f, -0.012285415f, 0.001726367f},
    {0.589621649f, -0.103359384f, 0.013748334f},
    {0.56398386f, -0.064007635f}};
static float taps[4][60];

static double bessel(double x) {
  double sum = 1, term = 1;
  for (int k = 1; k < 40; k++) {
    term *= (x / (2 * k)) * (x / (2 * k));
    sum += term;
  }
  return sum;
}

static void design(void) {
  for (int d = 0; d < 4; d++)
    for (int k = 0; k < COUNTS[d]; k++) {
      int half = COUNTS[d] / 2;
      taps[d][k] = HALVES[d][k < half ? half - 1 - k : k - half];
    }
}

typedef struct {
  float in[4][HISTORY + MOST], even[4][HISTORY + MOST], odd[4][HISTORY + MOST], top[MOST];
} Side;

static void up(Side *s, int d, float *out, int frames) {
  float *x = s->in[d] + HISTORY;
  int count = COUNTS[d], spare = LATE[d] - count / 2;
  for (int n = 0; n < frames; n++) {
    float sum = 0;
    for (int k = 0; k < count; k++) sum += taps[d][k] * x[n - spare - k];
    out[2 * n] = x[n - LATE[d]];
    out[2 * n + 1] = sum;
  }
  memmove(s->in[d], s->in[d] + frames, HISTORY * sizeof(float));
}

static void down(Side *s, int d, const float *x, float *out, int frames) {
  float *even = s->even[d] + HISTORY, *odd = s->odd[d] + HISTORY;
  int count = COUNTS[d], spare = LATE[d] - count / 2;
  for (int n = 0; n < frames; n++) {
    even[n] = x[2 * n];
    odd[n] = x[2 * n + 1];
  }
  for (int n = 0; n < frames; n++) {
    float sum = even[n - LATE[d]];
    for (int k = 0; k < count; k++) sum += taps[d][k] * odd[n - 1 - spare - k];
    out[n] = 0.5f * sum;
  }
  memmove(s->even[d], s->even[d] + frames, HISTORY * sizeof(float));
  memmove(s->odd[d], s->odd[d] + frames, HISTORY * sizeof(float));
}

static float saturated(float x) {
  float u = 2 * x;
  return 0.6f * u / sqrtf(1 + u * u);
}

static float clipped(float x) {
  float size = fabsf(x), start = 0.35f, width = 0.15f, v = (size - start) / width;
  if (size <= start) return x;
  if (v > 1.5f) v = 1.5f;
  return copysignf(start + width * v * (1 - 4.0f / 27 * v * v), x);
}

static void oversampled(Side *s, float *x, int doublings, float (*bend)(float)) {
  memcpy(s->in[0] + HISTORY, x, QUANTUM * sizeof(float));
  for (int d = 0; d < doublings; d++)
    up(s, d, d + 1 < doublings ? s->in[d + 1] + HISTORY : s->top, QUANTUM << d);
  for (int i = 0; i < QUANTUM << doublings; i++) s->top[i] = bend(s->top[i]);
  float work[MOST];
  float *from = s->top;
  for (int d = doublings - 1; d >= 0; d--) {
    down(s, d, from, d > 0 ? work : x, QUANTUM << d);
    from = work;
  }
}

static double now(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e9 + t.tv_nsec;
}

static float *left, *right;
static long frames;

static double time_oversampled(int doublings, float (*bend)(float)) {
  static Side a, b;
  float *l = malloc(frames * sizeof(float)), *r = malloc(frames * sizeof(float));
  double best = 1e30;
  for (int run = 0; run < 3; run++) {
    memcpy(l, left, frames * sizeof(float));
    memcpy(r, right, frames * sizeof(float));
    double start = now();
    for (long at = 0; at + QUANTUM <= frames; at += QUANTUM) {
      oversampled(&a, l + at, doublings, bend);
      oversampled(&b, r + at, doublings, bend);
    }
    double took = now() - start;
    if (took < best) best = took;
  }
  free(l);
  free(r);
  return best / frames;
}

/* The limiter: 4x peaks by 32 taps, and by 12, of both sides, a running minimum, recovery, two boxes. */
static double time_limiter(void) {
  const int window = 464, box = 110, delay = 247;
  static const float annex[2][12] = {
      {0.0017089844f, 0.0109863281f, -0.0196533203f, 0.0332031250f, -0.0594482422f, 0.1373291016f, 0.9721679688f,
       -0.1022949219f, 0.0476074219f, -0.0266113281f, 0.0148925781f, -0.0083007812f},
      {-0.0291748047f, 0.0292968750f, -0.0517578125f, 0.0891113281f, -0.1665039062f, 0.4650878906f, 0.7797851562f,
       -0.2003173828f, 0.1015625000f, -0.0582275391f, 0.0330810547f, -0.0189208984f}};
  float fine[3][32];
  for (int p = 1; p <= 3; p++)
    for (int k = 0; k < 32; k++) {
      double distance = k - 15 - p / 4.0, place = distance / 16;
      fine[p - 1][k] = (float)(sin(M_PI * distance) / (M_PI * distance) * bessel(4.2 * sqrt(1 - place * place)) / bessel(4.2));
    }
  double best = 1e30;
  float *need = malloc(frames * sizeof(float)), *l = malloc(frames * sizeof(float)), *r = malloc(frames * sizeof(float));
  double *first = calloc(frames + box, sizeof(double)), *second = calloc(frames + box, sizeof(double));
  for (int run = 0; run < 3; run++) {
    double start = now();
    const float *sides[2] = {left, right};
    const float ceiling = 0.89f, drive = 2.5f;
    for (long n = 0; n < frames; n++) {
      float most = ceiling;
      if (n >= 31)
        for (int s = 0; s < 2; s++) {
          const float *x = sides[s] + n - 31;
          /* Most windows are too quiet to matter. */
          float loudest = 0;
          for (int k = 0; k < 32; k++) loudest = fabsf(x[k]) > loudest ? fabsf(x[k]) : loudest;
          if (loudest * drive * 1.6f < ceiling) continue;
          for (int p = 0; p < 3; p++) {
            float sum = 0;
            for (int k = 0; k < 32; k++) sum += fine[p][k] * x[k];
            if (fabsf(sum) * drive > most) most = fabsf(sum) * drive;
          }
          for (int p = 0; p < 4; p++) {
            float sum = 0;
            for (int k = 0; k < 12; k++) sum += annex[p & 1][k] * x[10 + (p < 2 ? k : 11 - k)];
            if (fabsf(sum) * drive > most) most = fabsf(sum) * drive;
          }
        }
      need[n] = ceiling / most;
    }
    /* Running minimum by van Herk and Gil–Werman. */
    float *prefix = l, *suffix = r;
    for (long n = 0; n < frames; n++) prefix[n] = n % window == 0 ? need[n] : fminf(prefix[n - 1], need[n]);
    for (long n = frames - 1; n >= 0; n--) suffix[n] = n % window == window - 1 || n == frames - 1 ? need[n] : fminf(suffix[n + 1], need[n]);
    double gain = 1, sum1 = box, sum2 = box, sink = 0;
    for (int i = 0; i < box; i++) first[i] = second[i] = 1;
    for (long n = window; n < frames; n++) {
      double target = fminf(suffix[n - window + 1], prefix[n]);
      gain = fmin(target, gain + (target - gain) * 0.0002);
      sum1 += gain - first[n % box];
      first[n % box] = gain;
      double smooth = sum1 / box;
      sum2 += smooth - second[n % box];
      second[n % box] = smooth;
      double applied = sum2 / box;
      sink += left[n - delay] * drive * applied + right[n - delay] * drive * applied;
    }
    double took = now() - start;
    if (took < best) best = took;
    if (sink == 12345) puts("");
  }
  return best / frames;
}

int main(int argc, char **argv) {
  if (argc < 2) return 1;
  FILE *file = fopen(argv[1], "rb");
  if (!file) return 1;
  fseek(file, 0, SEEK_END);
  frames = ftell(file) / 8;
  rewind(file);
  float *both = malloc(frames * 8);
  if (fread(both, 8, frames, file) != (size_t)frames) return 1;
  left = malloc(frames * sizeof(float));
  right = malloc(frames * sizeof(float));
  for (long i = 0; i < frames; i++) {
    left[i] = both[2 * i];
    right[i] = both[2 * i + 1];
  }
  design();
  printf("{\"saturation\":%.2f,\"clipper\":%.2f,\"limiter\":%.2f}\n", time_oversampled(2, saturated), time_oversampled(3, clipped), time_limiter());
  return 0;
}
