// A feedback delay network of sixteen lines: Jot and Chaigne, "Digital delay networks for designing
// artificial reverberators", 90th AES Convention, 1991. Each line loses 60 dB in the decay time; a one-pole
// low-pass in each line shortens the decay of high frequencies; a Hadamard matrix mixes the lines without
// loss, so that a sound in one channel reaches all.
//
// {inputs i32 @0, outputs i32 @4, pre-delay index i32 @8, pre-delay size i32 @12, glide left i32 @16,
//  feeds u32 @24 (inputs x 16 f32), takes u32 @28 (outputs x 16 f32), pre-delay lines
//  u32 @32, lines u32 @36 (16 addresses), sizes u32 @40 (16 i32), indices u32 @44 (16 i32), out u32 @48 (16 f32)}
// @64: loss 16 f32, pole 16 f32, low-pass state 16 f32, loss step 16 f32, pole step 16 f32
export const REVERB_BYTES: i32 = 64 + 5 * 64;
const LINES: i32 = 16;
const LOSS: usize = 64;
const POLE: usize = 128;
const STATE: usize = 192;
const LOSS_STEP: usize = 256;
const POLE_STEP: usize = 320;

/**
 * `sizes`: 16 i32, samples of each line. `preDelay` samples before all. The signs by which channels enter
 * and leave the lines come from `seed`; the same seed sounds the same.
 */
export function reverbInit(p: usize, inputs: i32, outputs: i32, sizes: usize, preDelay: i32, seed: i32): void {
  memory.fill(p, 0, REVERB_BYTES);
  store<i32>(p, inputs, 0);
  store<i32>(p, outputs, 4);
  const pre = max(1, preDelay);
  store<i32>(p, preDelay > 0 ? pre : 0, 12);
  store<u32>(p, <u32>signs(inputs, seed, 0), 24);
  store<u32>(p, <u32>signs(outputs, seed ^ 0x5bd1e995, 1), 28);
  store<u32>(p, <u32>silent((pre * inputs) << 2), 32);
  const lines = heap.alloc(LINES << 2);
  const own = heap.alloc(LINES << 2);
  store<u32>(p, <u32>lines, 36);
  store<u32>(p, <u32>own, 40);
  store<u32>(p, <u32>silent(LINES << 2), 44);
  store<u32>(p, <u32>silent(LINES << 2), 48);
  for (let l = 0; l < LINES; l++) {
    const size = load<i32>(sizes + (<usize>l << 2));
    store<i32>(own + (<usize>l << 2), size);
    store<u32>(lines + (<usize>l << 2), <u32>silent(size << 2));
  }
}

function silent(bytes: i32): usize {
  const q = heap.alloc(bytes + 16);
  memory.fill(q, 0, bytes + 16);
  return q;
}

// Rows of +-1/4: each has length one. Walsh functions, all with the same drawn signs: up to sixteen rows stand
// at right angles, so that channels sound unlike each other. `turn` rotates the row's number: the pairs of
// inputs and of outputs then differ in other lines.
function signs(rows: i32, seed: i32, turn: i32): usize {
  const q = heap.alloc((rows * LINES) << 2);
  let s: u32 = <u32>seed * 2654435761 + 0x9e3779b9;
  let drawn: u32 = 0;
  for (let l = 0; l < LINES; l++) {
    s ^= s << 13;
    s ^= s >> 17;
    s ^= s << 5;
    drawn = (drawn << 1) | ((s >> 16) & 1);
  }
  for (let i = 0; i < rows * LINES; i++) {
    const number = (i / LINES) & (LINES - 1), l = i & (LINES - 1);
    const row = ((number << turn) | (number >> (4 - turn))) & (LINES - 1);
    const turned = (popcnt(row & l) + <i32>((drawn >> l) & 1)) & 1;
    store<f32>(q + (<usize>i << 2), turned ? <f32>-0.25 : <f32>0.25);
  }
  return q;
}

export function reverbFree(p: usize): void {
  const lines = <usize>load<u32>(p, 36);
  for (let l = 0; l < LINES; l++) heap.free(load<u32>(lines + (<usize>l << 2)));
  heap.free(load<u32>(p, 24));
  heap.free(load<u32>(p, 28));
  heap.free(load<u32>(p, 32));
  heap.free(lines);
  heap.free(load<u32>(p, 40));
  heap.free(load<u32>(p, 44));
  heap.free(load<u32>(p, 48));
}

/**
 * `decay`: seconds to -60 dB at low frequencies. `bright`: decay at the highest frequencies as a share of
 * it, 0 to 1. Glides over `glide` samples. The pole of each line's low-pass follows the paper's (ln 10 / 4)
 * log10(loss) (1 - 1 / bright^2), from memory, held below 1.
 */
export function reverbSet(p: usize, rate: f64, decay: f64, bright: f64, glide: i32): void {
  const sizes = <usize>load<u32>(p, 40);
  for (let l: usize = 0; l < <usize>LINES; l++) {
    const seconds = <f64>load<i32>(sizes + (l << 2)) / rate;
    const loss = NativeMath.pow(10.0, (-3.0 * seconds) / max(decay, 0.01));
    const b = max(bright, 0.05);
    const pole = min(0.99, 0.5756462732485115 * NativeMath.log10(loss) * (1.0 - 1.0 / (b * b)));
    const at = l << 2;
    if (glide <= 0) {
      store<f32>(p + at, <f32>loss, LOSS);
      store<f32>(p + at, <f32>pole, POLE);
    } else {
      store<f32>(p + at, (<f32>loss - load<f32>(p + at, LOSS)) / <f32>glide, LOSS_STEP);
      store<f32>(p + at, (<f32>pole - load<f32>(p + at, POLE)) / <f32>glide, POLE_STEP);
    }
  }
  store<i32>(p, max(0, glide), 16);
}

/** Reads `inputs` channels and writes `outputs` channels (addresses in `ins`, `outs`; may be the same). */
export function reverbRun(p: usize, ins: usize, outs: usize, n: i32): void {
  const inputs = load<i32>(p, 0), outputs = load<i32>(p, 4);
  const preSize = load<i32>(p, 12);
  const feeds = <usize>load<u32>(p, 24), takes = <usize>load<u32>(p, 28), pre = <usize>load<u32>(p, 32);
  const lines = <usize>load<u32>(p, 36), sizes = <usize>load<u32>(p, 40), indices = <usize>load<u32>(p, 44);
  const out = <usize>load<u32>(p, 48);
  const tiny = f32x4.splat(1e-18);
  let preIndex = load<i32>(p, 8);
  for (let i = 0; i < n; i++) {
    if (load<i32>(p, 16) > 0) glideStep(p);
    for (let l: usize = 0; l < <usize>LINES << 2; l += 4) {
      store<f32>(out + l, load<f32>(<usize>load<u32>(lines + l) + (<usize>load<i32>(indices + l) << 2)));
    }
    // state = loss * out * (1 - pole) + pole * state: unity at low frequencies but for the loss.
    const s0 = damp(p, out, 0, tiny), s1 = damp(p, out, 16, tiny), s2 = damp(p, out, 32, tiny), s3 = damp(p, out, 48, tiny);
    // What enters the lines: the mixed lines and the channels.
    const a = f32x4.add(s0, s1), b = f32x4.sub(s0, s1), c = f32x4.add(s2, s3), d = f32x4.sub(s2, s3);
    let m0 = within(f32x4.add(a, c)), m1 = within(f32x4.add(b, d)), m2 = within(f32x4.sub(a, c)), m3 = within(f32x4.sub(b, d));
    for (let k = 0; k < inputs; k++) {
      const slot = <usize>load<u32>(ins + (<usize>k << 2)) + (<usize>i << 2);
      let x = load<f32>(slot);
      if (preSize) {
        const held = pre + (<usize>(k * preSize + preIndex) << 2);
        const late = load<f32>(held);
        store<f32>(held, x);
        x = late;
      }
      const v = f32x4.splat(x);
      const f = feeds + (<usize>(k * LINES) << 2);
      m0 = f32x4.add(m0, f32x4.mul(v, v128.load(f)));
      m1 = f32x4.add(m1, f32x4.mul(v, v128.load(f, 16)));
      m2 = f32x4.add(m2, f32x4.mul(v, v128.load(f, 32)));
      m3 = f32x4.add(m3, f32x4.mul(v, v128.load(f, 48)));
    }
    for (let k = 0; k < outputs; k++) {
      const t = takes + (<usize>(k * LINES) << 2);
      const y = f32x4.add(
        f32x4.add(f32x4.mul(s0, v128.load(t)), f32x4.mul(s1, v128.load(t, 16))),
        f32x4.add(f32x4.mul(s2, v128.load(t, 32)), f32x4.mul(s3, v128.load(t, 48))),
      );
      store<f32>(
        <usize>load<u32>(outs + (<usize>k << 2)) + (<usize>i << 2),
        f32x4.extract_lane(y, 0) + f32x4.extract_lane(y, 1) + (f32x4.extract_lane(y, 2) + f32x4.extract_lane(y, 3)),
      );
    }
    v128.store(out, m0);
    v128.store(out, m1, 16);
    v128.store(out, m2, 32);
    v128.store(out, m3, 48);
    for (let l: usize = 0; l < <usize>LINES << 2; l += 4) {
      const index = load<i32>(indices + l);
      store<f32>(<usize>load<u32>(lines + l) + (<usize>index << 2), load<f32>(out + l));
      store<i32>(indices + l, index + 1 == load<i32>(sizes + l) ? 0 : index + 1);
    }
    if (preSize) preIndex = preIndex + 1 == preSize ? 0 : preIndex + 1;
  }
  store<i32>(p, preIndex, 8);
}

// @ts-ignore: decorator
@inline
function damp(p: usize, out: usize, at: usize, tiny: v128): v128 {
  const pole = v128.load(p + at, POLE);
  const x = f32x4.mul(v128.load(out + at), v128.load(p + at, LOSS));
  const before = v128.load(p + at, STATE);
  // The tiny amount added and taken away again flushes denormal numbers.
  const y = f32x4.sub(f32x4.add(f32x4.add(x, f32x4.mul(pole, f32x4.sub(before, x))), tiny), tiny);
  v128.store(p + at, y, STATE);
  return y;
}

// The part of the Hadamard transform within four lanes, and its scale of 1/4.
// @ts-ignore: decorator
@inline
function within(v: v128): v128 {
  const a = f32x4.add(f32x4.mul(v, f32x4(1, -1, 1, -1)), v128.shuffle<f32>(v, v, 1, 0, 3, 2));
  const b = f32x4.add(f32x4.mul(a, f32x4(1, 1, -1, -1)), v128.shuffle<f32>(a, a, 2, 3, 0, 1));
  return f32x4.mul(b, f32x4.splat(0.25));
}

function glideStep(p: usize): void {
  for (let at: usize = 0; at < 64; at += 16) {
    v128.store(p + at, f32x4.add(v128.load(p + at, LOSS), v128.load(p + at, LOSS_STEP)), LOSS);
    v128.store(p + at, f32x4.add(v128.load(p + at, POLE), v128.load(p + at, POLE_STEP)), POLE);
  }
  store<i32>(p, load<i32>(p, 16) - 1, 16);
}
