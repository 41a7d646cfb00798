// Interleaved file samples to planar f32 and back. Formats: 8 (unsigned), 9 (8 bit signed), 16, 24, 32
// (integer), 132 (f32), 164 (f64).
const U8: i32 = 8;
const S8: i32 = 9;
const F32: i32 = 132;
const F64: i32 = 164;

function bytesOf(format: i32): i32 {
  return format <= S8 ? 1 : format == 16 ? 2 : format == 24 ? 3 : format == F64 ? 8 : 4;
}

/** Turns `count` samples of `size` bytes round, big-endian to little-endian and back. */
export function swapBytes(buf: usize, count: i32, size: i32): void {
  const end = buf + <usize>(count * size);
  let at = buf;
  if (size == 2) for (; at < end; at += 2) store<u16>(at, bswap(load<u16>(at)));
  else if (size == 4) for (; at < end; at += 4) store<u32>(at, bswap(load<u32>(at)));
  else if (size == 8) for (; at < end; at += 8) store<u64>(at, bswap(load<u64>(at)));
  else if (size == 3) {
    for (; at < end; at += 3) {
      const first = load<u8>(at);
      store<u8>(at, load<u8>(at, 2));
      store<u8>(at, first, 2);
    }
  }
}

/** Decodes `frames` little-endian frames of `channels` samples; `chans`: addresses of planar buffers. */
export function decode(format: i32, src: usize, channels: i32, frames: i32, chans: usize): void {
  const size = bytesOf(format);
  const stride = <usize>(size * channels);
  if (format == 24 && channels == 2) {
    stereo24(src, frames, <usize>load<u32>(chans), <usize>load<u32>(chans, 4));
    return;
  }
  for (let c = 0; c < channels; c++) {
    let from = src + <usize>(c * size);
    let to = <usize>load<u32>(chans + (<usize>c << 2));
    const end = to + (<usize>frames << 2);
    if (format == 24) {
      channel24(from, stride, frames, to);
    } else if (format == 16) {
      const k: f32 = 1.0 / 32768.0;
      for (; to < end; to += 4) {
        store<f32>(to, <f32>load<i16>(from) * k);
        from += stride;
      }
    } else if (format == 32) {
      const k: f64 = 1.0 / 2147483648.0;
      for (; to < end; to += 4) {
        store<f32>(to, <f32>(<f64>load<i32>(from) * k));
        from += stride;
      }
    } else if (format == F32) {
      for (; to < end; to += 4) {
        store<f32>(to, load<f32>(from));
        from += stride;
      }
    } else if (format == F64) {
      for (; to < end; to += 4) {
        store<f32>(to, <f32>load<f64>(from));
        from += stride;
      }
    } else {
      const k: f32 = 1.0 / 128.0;
      const middle = format == U8 ? 128 : 0;
      for (; to < end; to += 4) {
        const v = format == U8 ? <i32>load<u8>(from) : <i32>load<i8>(from);
        store<f32>(to, <f32>(v - middle) * k);
        from += stride;
      }
    }
  }
}

const STEP24: f32 = 1.0 / 8388608.0;

// @ts-ignore: decorator
@inline
function one24(from: usize): f32 {
  return <f32>(<i32>load<u16>(from) | (<i32>load<i8>(from, 2) << 16)) * STEP24;
}

// @ts-ignore: decorator
@inline
function four24(v: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_s(v, 8)), f32x4.splat(STEP24));
}

// Four samples of three bytes each, put into the upper bytes of four lanes.
// @ts-ignore: decorator
@inline
function spread24(at: usize): v128 {
  const v = v128.load(at);
  return v128.shuffle<i8>(v, i32x4.splat(0), 16, 0, 1, 2, 16, 3, 4, 5, 16, 6, 7, 8, 16, 9, 10, 11);
}

function stereo24(src: usize, frames: i32, left: usize, right: usize): void {
  let i = 0;
  // Sixteen bytes are read where twelve are needed: the last frames go one by one.
  for (; i + 5 <= frames; i += 4) {
    const at = src + <usize>(i * 6);
    const a = four24(spread24(at)), b = four24(spread24(at + 12));
    v128.store(left + (<usize>i << 2), v128.shuffle<f32>(a, b, 0, 2, 4, 6));
    v128.store(right + (<usize>i << 2), v128.shuffle<f32>(a, b, 1, 3, 5, 7));
  }
  for (; i < frames; i++) {
    const at = src + <usize>(i * 6);
    store<f32>(left + (<usize>i << 2), one24(at));
    store<f32>(right + (<usize>i << 2), one24(at + 3));
  }
}

function channel24(src: usize, stride: usize, frames: i32, out: usize): void {
  let i = 0;
  let from = src;
  if (stride == 3) {
    for (; i + 6 <= frames; i += 4) {
      v128.store(out + (<usize>i << 2), four24(spread24(from)));
      from += 12;
    }
  } else {
    for (; i + 5 <= frames; i += 4) {
      let v = v128.load32_zero(from);
      v = v128.load32_lane(from + stride, v, 1);
      v = v128.load32_lane(from + 2 * stride, v, 2);
      v = v128.load32_lane(from + 3 * stride, v, 3);
      v128.store(out + (<usize>i << 2), four24(i32x4.shl(v, 8)));
      from += 4 * stride;
    }
  }
  for (; i < frames; i++) {
    store<f32>(out + (<usize>i << 2), one24(from));
    from += stride;
  }
}

/**
 * Encodes planar f32 to little-endian frames, rounding to the nearest step; returns how many samples
 * were beyond full scale (and are held there). `dither` != 0 adds triangular noise of 2 steps peak to
 * peak from the generator whose u32 state is at that address.
 */
export function encode(format: i32, chans: usize, channels: i32, frames: i32, dst: usize, dither: usize): i32 {
  if (format == 24 && channels == 2 && dither == 0) return encodeStereo24(load<u32>(chans), load<u32>(chans, 4), frames, dst);
  if (format == 24 && channels > 2 && dither == 0) return encodeWide24(chans, channels, frames, dst);
  const size = bytesOf(format);
  const stride = <usize>(size * channels);
  let overs = 0;
  for (let c = 0; c < channels; c++) {
    let to = dst + <usize>(c * size);
    let from = <usize>load<u32>(chans + (<usize>c << 2));
    const end = from + (<usize>frames << 2);
    if (format == F32) {
      for (; from < end; from += 4) {
        store<f32>(to, load<f32>(from));
        to += stride;
      }
      continue;
    }
    if (format == F64) {
      for (; from < end; from += 4) {
        store<f64>(to, <f64>load<f32>(from));
        to += stride;
      }
      continue;
    }
    if (format == 24 && dither == 0) {
      overs += encode24(from, frames, to, stride);
      continue;
    }
    const full: f64 = format <= S8 ? 128.0 : format == 16 ? 32768.0 : format == 24 ? 8388608.0 : 2147483648.0;
    for (; from < end; from += 4) {
      let x = <f64>load<f32>(from) * full;
      if (dither != 0) x += uniform(dither) - uniform(dither);
      let v = nearest(x);
      if (v > full - 1.0) {
        v = full - 1.0;
        overs++;
      } else if (v < -full) {
        v = -full;
        overs++;
      }
      const s = <i32>v;
      if (format == 24) {
        store<u16>(to, <u16>s);
        store<u8>(to, <u8>(s >> 16), 2);
      } else if (format == 16) {
        store<i16>(to, <i16>s);
      } else if (format == U8) {
        store<u8>(to, <u8>(s + 128));
      } else if (format == S8) {
        store<i8>(to, <i8>s);
      } else {
        store<i32>(to, s);
      }
      to += stride;
    }
  }
  return overs;
}

/** Taps of the noise shaping, and bytes of its state: the last errors of one channel, the newest first. */
export const SHAPE_BYTES: i32 = 40;

/**
 * Encodes planar f32 to integers of 16 or 24 bits as `encode` does with dither, with the error of each sample taken off
 * the next ones: the noise becomes softer where it is heard best (2 to 5 kHz) and louder above. The filter is the
 * five-tap one of Lipshitz, Vanderkooy, Wannamaker, "Minimally audible noise shaping", J. Audio Eng. Soc. 39 (1991) 836
 * (values from memory; the test holds its spectrum against sox's filter of that name). `errors`: SHAPE_BYTES a channel.
 */
export function encodeShaped(format: i32, chans: usize, channels: i32, frames: i32, dst: usize, dither: usize, errors: usize): i32 {
  const size = bytesOf(format);
  const stride = <usize>(size * channels);
  const full: f64 = format == 16 ? 32768.0 : 8388608.0;
  let overs = 0;
  for (let c = 0; c < channels; c++) {
    let to = dst + <usize>(c * size);
    let from = <usize>load<u32>(chans + (<usize>c << 2));
    const end = from + (<usize>frames << 2);
    const kept = errors + <usize>(c * SHAPE_BYTES);
    let e1 = load<f64>(kept), e2 = load<f64>(kept, 8), e3 = load<f64>(kept, 16), e4 = load<f64>(kept, 24), e5 = load<f64>(kept, 32);
    for (; from < end; from += 4) {
      const wanted = <f64>load<f32>(from) * full - (2.033 * e1 - 2.165 * e2 + 1.959 * e3 - 1.59 * e4 + 0.6149 * e5);
      let v = nearest(wanted + (uniform(dither) - uniform(dither)));
      e5 = e4; e4 = e3; e3 = e2; e2 = e1;
      e1 = v - wanted;
      if (v > full - 1.0 || v < -full) {
        v = v < 0 ? -full : full - 1.0;
        overs++;
        // What is held at full scale is no rounding: carried on it would grow without end.
        e1 = 0;
      }
      const s = <i32>v;
      if (format == 24) put24(to, s);
      else store<i16>(to, <i16>s);
      to += stride;
    }
    store<f64>(kept, e1); store<f64>(kept, e2, 8); store<f64>(kept, e3, 16); store<f64>(kept, e4, 24); store<f64>(kept, e5, 32);
  }
  return overs;
}

// A f32 has as many bits as the step of 24-bit samples asks: scaling and rounding in f32 is exact.
function encode24(src: usize, frames: i32, dst: usize, stride: usize): i32 {
  const scale = f32x4.splat(8388608);
  const high = f32x4.splat(8388607);
  const low = f32x4.splat(-8388608);
  let to = dst;
  let overs = 0;
  let i = 0;
  for (; i + 4 <= frames; i += 4) {
    const x = f32x4.nearest(f32x4.mul(v128.load(src + (<usize>i << 2)), scale));
    const beyond = i32x4.bitmask(v128.or(f32x4.gt(x, high), f32x4.lt(x, low)));
    if (beyond) overs += popcnt(beyond);
    const v = i32x4.trunc_sat_f32x4_s(f32x4.pmax(f32x4.pmin(x, high), low));
    put24(to, i32x4.extract_lane(v, 0));
    put24(to + stride, i32x4.extract_lane(v, 1));
    put24(to + 2 * stride, i32x4.extract_lane(v, 2));
    put24(to + 3 * stride, i32x4.extract_lane(v, 3));
    to += 4 * stride;
  }
  for (; i < frames; i++) {
    const x = nearest(load<f32>(src + (<usize>i << 2)) * <f32>8388608);
    if (x > <f32>8388607 || x < <f32>-8388608) overs++;
    put24(to, <i32>max(min(x, <f32>8388607), <f32>-8388608));
    to += stride;
  }
  return overs;
}

// @ts-ignore: decorator
@inline
function round24(at: usize): v128 {
  return f32x4.nearest(f32x4.mul(v128.load(at), f32x4.splat(8388608)));
}

// @ts-ignore: decorator
@inline
function overs24(x: v128): i32 {
  return popcnt(i32x4.bitmask(v128.or(f32x4.gt(x, f32x4.splat(8388607)), f32x4.lt(x, f32x4.splat(-8388608)))));
}

// @ts-ignore: decorator
@inline
function whole24(x: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.pmax(f32x4.pmin(x, f32x4.splat(8388607)), f32x4.splat(-8388608)));
}

function encodeStereo24(left: usize, right: usize, frames: i32, dst: usize): i32 {
  let overs = 0;
  let i = 0;
  let to = dst;
  for (; i + 4 <= frames; i += 4) {
    const at = <usize>i << 2;
    const l = round24(left + at), r = round24(right + at);
    overs += overs24(l) + overs24(r);
    const a = whole24(l), b = whole24(r);
    const first = v128.shuffle<i32>(a, b, 0, 4, 1, 5), second = v128.shuffle<i32>(a, b, 2, 6, 3, 7);
    v128.store(to, v128.shuffle<i8>(first, second, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 16, 17, 18, 20));
    v128.store64_lane(to + 16, v128.shuffle<i8>(second, second, 5, 6, 8, 9, 10, 12, 13, 14, 0, 0, 0, 0, 0, 0, 0, 0), 0);
    to += 24;
  }
  for (; i < frames; i++) {
    for (let c = 0; c < 2; c++) {
      const x = nearest(load<f32>((c ? right : left) + (<usize>i << 2)) * <f32>8388608);
      if (x > <f32>8388607 || x < <f32>-8388608) overs++;
      put24(to, <i32>max(min(x, <f32>8388607), <f32>-8388608));
      to += 3;
    }
  }
  return overs;
}

// Pairs of channels, four frames at a time. The eight bytes of a store hold six of samples: the two too many are
// written over by the next pair, so the last channels of a frame are stored as they are.
function encodeWide24(chans: usize, channels: i32, frames: i32, dst: usize): i32 {
  const stride = <usize>(channels * 3);
  const overlapping = (channels - 1) >> 1;
  let overs = 0;
  let i = 0;
  for (; i + 4 <= frames; i += 4) {
    const at = <usize>i << 2;
    let to = dst + <usize>i * stride;
    let table = chans;
    for (let p = 0; p < overlapping; p++) {
      const l = round24(<usize>load<u32>(table) + at), r = round24(<usize>load<u32>(table, 4) + at);
      overs += overs24(l) + overs24(r);
      const a = whole24(l), b = whole24(r);
      const first = six(v128.shuffle<i32>(a, b, 0, 4, 1, 5)), second = six(v128.shuffle<i32>(a, b, 2, 6, 3, 7));
      v128.store64_lane(to, first, 0);
      v128.store64_lane(to + stride, first, 1);
      v128.store64_lane(to + 2 * stride, second, 0);
      v128.store64_lane(to + 3 * stride, second, 1);
      to += 6;
      table += 8;
    }
    for (let c = overlapping << 1; c < channels; c++) {
      const x = round24(<usize>load<u32>(table) + at);
      overs += overs24(x);
      const v = whole24(x);
      put24(to, i32x4.extract_lane(v, 0));
      put24(to + stride, i32x4.extract_lane(v, 1));
      put24(to + 2 * stride, i32x4.extract_lane(v, 2));
      put24(to + 3 * stride, i32x4.extract_lane(v, 3));
      to += 3;
      table += 4;
    }
  }
  for (let c = 0; c < channels && i < frames; c++) {
    const from = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>i << 2);
    overs += encode24(from, frames - i, dst + <usize>i * stride + <usize>(c * 3), stride);
  }
  return overs;
}

// Two samples of three bytes at the beginning of each half.
// @ts-ignore: decorator
@inline
function six(v: v128): v128 {
  return v128.shuffle<i8>(v, v, 0, 1, 2, 4, 5, 6, 4, 5, 8, 9, 10, 12, 13, 14, 12, 13);
}

// @ts-ignore: decorator
@inline
function put24(to: usize, v: i32): void {
  store<u16>(to, <u16>v);
  store<u8>(to, <u8>(v >> 16), 2);
}

// @ts-ignore: decorator
@inline
function uniform(state: usize): f64 {
  let s = load<u32>(state);
  s ^= s << 13;
  s ^= s >> 17;
  s ^= s << 5;
  store<u32>(state, s);
  return <f64>s / 4294967296.0;
}
