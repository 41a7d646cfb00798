// Interleaved file samples to planar f32 and back. Formats: 16, 24, 32 (integer), 132 (f32), 164 (f64).
const F32: i32 = 132;
const F64: i32 = 164;

function bytesOf(format: i32): i32 {
  return format == 16 ? 2 : format == 24 ? 3 : format == F64 ? 8 : 4;
}

/** Decodes `frames` little-endian frames of `channels` samples; `chans`: addresses of planar buffers. */
export function decode(format: i32, src: usize, channels: i32, frames: i32, chans: usize): void {
  const size = bytesOf(format);
  const stride = <usize>(size * channels);
  for (let c = 0; c < channels; c++) {
    let from = src + <usize>(c * size);
    let to = <usize>load<u32>(chans + (<usize>c << 2));
    const end = to + (<usize>frames << 2);
    if (format == 24) {
      const k: f32 = 1.0 / 8388608.0;
      for (; to < end; to += 4) {
        const v = (<i32>load<u16>(from)) | (<i32>load<i8>(from, 2) << 16);
        store<f32>(to, <f32>v * k);
        from += stride;
      }
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
    } else {
      for (; to < end; to += 4) {
        store<f32>(to, <f32>load<f64>(from));
        from += stride;
      }
    }
  }
}

/**
 * Encodes planar f32 to little-endian frames, rounding to the nearest step; returns how many samples
 * were beyond full scale (and are held there). `dither` != 0 adds triangular noise of 2 steps peak to
 * peak from the generator whose u32 state is at that address.
 */
export function encode(format: i32, chans: usize, channels: i32, frames: i32, dst: usize, dither: usize): i32 {
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
    if (format == 24 && dither == 0) {
      overs += encode24(from, frames, to, stride);
      continue;
    }
    const full: f64 = format == 16 ? 32768.0 : format == 24 ? 8388608.0 : 2147483648.0;
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
      } else {
        store<i32>(to, s);
      }
      to += stride;
    }
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
    const v = i32x4.trunc_sat_f32x4_s(f32x4.max(f32x4.min(x, high), low));
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
