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

// A delay that may change while it runs: {line u32 @0, size i32 @4, index i32 @8, now i32 @12, next i32 @16,
//  wanted i32 @20, fade left i32 @24, fade length i32 @28}. A change crossfades from the old tap to the new.
export const TAP_BYTES: i32 = 32;

/** `longest` samples of delay at most; `fade`: samples that a change takes. */
export function tapInit(p: usize, longest: i32, fade: i32): void {
  const bytes = (longest + 1) << 2;
  const line = heap.alloc(bytes);
  memory.fill(line, 0, bytes);
  store<u32>(p, <u32>line, 0);
  store<i32>(p, longest + 1, 4);
  store<i32>(p, fade, 28);
}

export function tapFree(p: usize): void {
  heap.free(load<u32>(p, 0));
}

/** Heads for `delay` samples; `now` != 0 goes there without a fade. */
export function tapSet(p: usize, delay: i32, now: i32): void {
  store<i32>(p, delay, 20);
  if (!now) return;
  store<i32>(p, delay, 12);
  store<i32>(p, 0, 24);
}

export function tapRun(p: usize, buf: usize, n: i32): void {
  const line = <usize>load<u32>(p, 0);
  const size = load<i32>(p, 4);
  const fade = load<i32>(p, 28);
  let index = load<i32>(p, 8);
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    store<f32>(line + (<usize>index << 2), load<f32>(at));
    let left = load<i32>(p, 24);
    if (left == 0 && load<i32>(p, 20) != load<i32>(p, 12)) {
      store<i32>(p, load<i32>(p, 20), 16);
      left = fade;
    }
    const a = tapAt(line, size, index, load<i32>(p, 12));
    if (left > 0) {
      const share = <f32>(fade - left + 1) / <f32>fade;
      store<f32>(at, a + share * (tapAt(line, size, index, load<i32>(p, 16)) - a));
      left--;
      if (left == 0) store<i32>(p, load<i32>(p, 16), 12);
      store<i32>(p, left, 24);
    } else {
      store<f32>(at, a);
    }
    index++;
    if (index == size) index = 0;
  }
  store<i32>(p, index, 8);
}

// @ts-ignore: decorator
@inline
function tapAt(line: usize, size: i32, index: i32, delay: i32): f32 {
  let at = index - delay;
  if (at < 0) at += size;
  return load<f32>(line + (<usize>at << 2));
}
