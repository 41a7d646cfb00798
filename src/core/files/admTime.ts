/** "00:01:02.50000" of seconds, as the Audio Definition Model writes times (ITU-R BS.2076). */
export function admTime(seconds: number): string {
  const two = (n: number) => String(n).padStart(2, '0');
  const whole = Math.floor(seconds + 5e-6);
  const rest = Math.max(0, Math.round((seconds - whole) * 1e5));
  return `${two(Math.floor(whole / 3600))}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}.${String(rest).padStart(5, '0')}`;
}
