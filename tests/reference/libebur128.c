// Measures a file of interleaved 32-bit floats: integrated, range, largest momentary, largest true peak.
#include <ebur128.h>
#include <stdio.h>
#include <stdlib.h>

int main(int argc, char **argv) {
  if (argc != 4) return 2;
  unsigned channels = (unsigned)atoi(argv[2]);
  unsigned long rate = strtoul(argv[3], NULL, 10);
  ebur128_state *st = ebur128_init(channels, rate, EBUR128_MODE_I | EBUR128_MODE_LRA | EBUR128_MODE_TRUE_PEAK);
  if (!st) return 1;
  if (channels == 1) ebur128_set_channel(st, 0, EBUR128_LEFT);
  if (channels >= 5) {
    int surrounds = channels == 6 ? 4 : 3;
    if (channels == 6) ebur128_set_channel(st, 3, EBUR128_UNUSED);
    ebur128_set_channel(st, 2, EBUR128_CENTER);
    ebur128_set_channel(st, surrounds, EBUR128_LEFT_SURROUND);
    ebur128_set_channel(st, surrounds + 1, EBUR128_RIGHT_SURROUND);
  }
  FILE *f = fopen(argv[1], "rb");
  if (!f) return 1;
  size_t step = rate / 10;
  float *buf = malloc(step * channels * sizeof(float));
  double top = -1e9;
  size_t got;
  unsigned long frames = 0;
  while ((got = fread(buf, channels * sizeof(float), step, f)) > 0) {
    ebur128_add_frames_float(st, buf, got);
    frames += got;
    double m;
    if (frames >= 4 * step && ebur128_loudness_momentary(st, &m) == 0 && m > top) top = m;
  }
  double integrated, range, peak = 0;
  ebur128_loudness_global(st, &integrated);
  ebur128_loudness_range(st, &range);
  for (unsigned c = 0; c < channels; c++) {
    double p;
    ebur128_true_peak(st, c, &p);
    if (p > peak) peak = p;
  }
  printf("{\"integrated\":%.6f,\"range\":%.6f,\"momentary\":%.6f,\"truePeak\":%.9f}\n", integrated, range, top, peak);
  return 0;
}
