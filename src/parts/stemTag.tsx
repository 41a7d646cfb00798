import type { Bus } from '@/core/session';

/** The colour of a stem; the reference and other buses have none. */
export const hueOf = (bus: { hue: number } | undefined): string =>
  bus && bus.hue >= 0 ? `var(--hue-${bus.hue})` : 'var(--quiet)';

/** A bus by its two letters and colour, never by colour alone. */
export function StemTag({ bus }: { bus: Pick<Bus, 'code' | 'hue' | 'name'> }) {
  const hue = hueOf(bus);
  return (
    <span
      title={bus.name}
      className="inline-flex h-5 w-6.75 items-center justify-center rounded-sm border text-small font-[640]"
      style={{
        borderColor: hue,
        // Towards the text's colour, so that the letters stand out from the tint by as much as AA asks.
        color: `color-mix(in oklab, ${hue} 45%, var(--text))`,
        background: `color-mix(in oklab, ${hue} 14%, transparent)`,
      }}
    >
      {bus.code}
    </span>
  );
}
