/** Delays `buf` in place through `line`, a ring of `size` samples; returns the next ring index. */
export function delayRun(line: usize, size: i32, index: i32, buf: usize, n: i32): i32 {
  if (size == 0) return 0;
  let ring = index;
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    const slot = line + (<usize>ring << 2);
    const v = load<f32>(at);
    store<f32>(at, load<f32>(slot));
    store<f32>(slot, v);
    ring++;
    if (ring == size) ring = 0;
  }
  return ring;
}
