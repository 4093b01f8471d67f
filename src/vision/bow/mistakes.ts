import type { BowSighting } from '../../core/bow/sighting';

/**
 * A bow that looks less like itself than the second often has something else taken for an end: for each tenth below, an
 * end may be off by a tenth of the first more (px at 960 across; ours: of ends found at 0.6 to 0.7 one in ten was off by 30 px, above 0.8 none).
 * What is mistaken stays mistaken for half a second and more, so that each of its frames counts for a quarter of one.
 * The tracker itself goes on believing its ends: let loose, it would take to other things along the line.
 */
const MISTAKE = 230;
const WELL_SEEN = 0.8;
/**
 * So it is with the line of a bow that looks still less like itself: it may be off by the first times the square of
 * what its likeness lacks to the second (px at 960 across; ours, from 600 lines of clear, dark and noisy films of two
 * renderers: one in ten was off by 1.5 px and more above 0.7, by 6 about 0.6, by 20 about 0.5).
 */
const LINE_MISTAKE = 350;
const LINE_SEEN = 0.65;
/**
 * A bow that points nearly at the camera is a spot behind the hand: cosines of its angle to the line of sight from and to which
 * its line loses its say, and how far off (px at 960 across) it may then be (ours: at 25 degrees lines were 1 to 3 px off, below 20 up to 90).
 */
const END_ON = { from: 0.92, to: 0.94, off: 60 } as const;

/** The sighting with line and ends as unsure as those of a bow that looks so much like itself, and points at the camera so nearly (cosine), are. */
export function withMistakes(sighting: BowSighting, slant: number, unit: number): BowSighting {
  const { line, score } = sighting;
  const mistake = MISTAKE * unit * Math.max(0, WELL_SEEN - score);
  const unsure = (end: BowSighting['frog']) => end && { ...end, sigma: Math.hypot(end.sigma, mistake), own: Math.hypot(end.own ?? end.sigma, mistake) };
  const endOn = Math.min(1, Math.max(0, (slant - END_ON.from) / (END_ON.to - END_ON.from)));
  const aside = unit * Math.max(LINE_MISTAKE * Math.max(0, LINE_SEEN - score) ** 2, END_ON.off * endOn);
  return {
    ...sighting,
    line: line && { ...line, sigmaA: Math.hypot(line.sigmaA, aside), sigmaB: Math.hypot(line.sigmaB, aside) },
    frog: unsure(sighting.frog),
    tip: unsure(sighting.tip),
  };
}
