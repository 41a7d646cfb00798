/** Allocates `bytes` zeroed bytes, aligned to 16. */
export function alloc(bytes: i32): usize {
  const p = heap.alloc(bytes);
  memory.fill(p, 0, bytes);
  return p;
}

/** Gives back what `alloc` returned. */
export function release(ptr: usize): void {
  heap.free(ptr);
}

export function clear(ptr: usize, n: i32): void {
  memory.fill(ptr, 0, <usize>n << 2);
}

export function copy(dst: usize, src: usize, n: i32): void {
  memory.copy(dst, src, <usize>n << 2);
}
