/** Median of `runs` timings of each side, taken in turn so that both meet the same machine. */
export async function race(
  runs: number,
  ours: () => Promise<void> | void,
  theirs: () => void,
): Promise<{ ours: number; theirs: number; ratio: number }> {
  const a: number[] = [];
  const b: number[] = [];
  for (let i = 0; i < runs; i++) {
    let t = performance.now();
    await ours();
    a.push(performance.now() - t);
    t = performance.now();
    theirs();
    b.push(performance.now() - t);
  }
  const median = (v: number[]) => v.sort((x, y) => x - y)[Math.floor(v.length / 2)]! / 1000;
  const [o, t] = [median(a), median(b)];
  return { ours: Number(o.toFixed(3)), theirs: Number(t.toFixed(3)), ratio: Number((t / o).toFixed(2)) };
}

/** Largest memory this process had, MB. */
export const peakMemory = (): number => Math.round(process.resourceUsage().maxRSS / 1024);

/** Prints one case as a line of JSON. */
export const report = (line: object): void => console.log(JSON.stringify(line));
