import type { Stroke } from '../strokes/stroke';

const round = (x: number, digits = 3) => Number(x.toFixed(digits));

/** Strokes as JSON text, `gestometra-events/1`. Times in seconds from the first frame; unknown values are left out. */
export function eventsToText(strokes: readonly Stroke[]): string {
  return `${JSON.stringify(
    {
      format: 'gestometra-events/1',
      strokes: strokes.map((s) => ({
        from: round(s.from),
        to: round(s.to),
        direction: s.direction,
        ...(s.string ? { string: s.string } : {}),
        from_position: round(s.fromPosition),
        to_position: round(s.toPosition),
        ...(s.skew_deg ? { skew_deg: round(s.skew_deg.value), skew_deg_u: round(s.skew_deg.u) } : {}),
        ...(s.contact_mm ? { contact_mm: round(s.contact_mm.value), contact_mm_u: round(s.contact_mm.u) } : {}),
        ...(s.contact_fraction ? { contact_fraction: round(s.contact_fraction.value) } : {}),
        ...(s.contactRange ? { contact_range: round(s.contactRange.value) } : {}),
        ...(s.arcIndex ? { arc_index: round(s.arcIndex.value), arc_index_u: round(s.arcIndex.u) } : {}),
        mean_speed_mm_s: round(s.meanSpeed, 1),
        peak_speed_mm_s: round(s.peakSpeed, 1),
      })),
      notes: [],
      crossings: [],
      strays: [],
    },
    null,
    1,
  )}\n`;
}
