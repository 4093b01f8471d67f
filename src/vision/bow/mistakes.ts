import { endOnDoubt } from '../../core/bow/endOn';
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
 * A line that passes by every place where a bow can touch the strings is not that of a bow that plays: beyond the first
 * (px at 960 across) it may be off by the second times as much (ours: edges of the fingerboard, along which a bow seen
 * nearly along the strings is easily taken to lie, passed by 4 px).
 */
const PASSES_BY = { from: 1, times: 2 } as const;

/**
 * Where another line is voted nearly as much the picture does not tell which of them is the bow: from so great a share on the line may be off
 * by `times` what it is more, at most by `most` (px at 960 across; ours, from 1,250 lines of nine films of two renderers: of
 * 103 rivalled by 0.84 and more, and less like a bow than 0.75, nine in ten were off by more than 5 px, all but eight of them in
 * one far and blurred film; of all others one in twenty).
 */
const RIVAL = { from: 0.84, ofClear: 0.92, times: 200, most: 20 } as const;
/** More alike than the first a bow bears a nearer rival, from the second on that of one that looks like itself (ours). */
const CLEAR = { from: 0.7, to: 0.8 } as const;

/** What a sighting's doubt depends on besides its likeness. */
interface SeenSo {
  /** How nearly the bow points at the camera (cosine). */
  readonly slant: number;
  /** In the frame in which it was placed its line is right, though it points at the camera. */
  readonly placed: boolean;
  /** By how much its line passes by where a bow can touch the strings, px (see passesBy). */
  readonly passedBy: number;
  /** What the likeliest line elsewhere is voted, over what its own is (see FoundLine). */
  readonly rival: number;
  /** Pixels that one at 960 across has. */
  readonly unit: number;
}

/** The sighting with line and ends as unsure as those of a bow that looks so much like itself, and is seen so, are. */
export function withMistakes(sighting: BowSighting, { slant, placed, passedBy, rival, unit }: SeenSo): BowSighting {
  const { line, score } = sighting;
  const mistake = MISTAKE * unit * Math.max(0, WELL_SEEN - score);
  const unsure = (end: BowSighting['frog']) => end && { ...end, sigma: Math.hypot(end.sigma, mistake), own: Math.hypot(end.own ?? end.sigma, mistake) };
  const besideStrings = PASSES_BY.times * Math.max(0, passedBy - PASSES_BY.from * unit);
  const clear = Math.min(1, Math.max(0, (score - CLEAR.from) / (CLEAR.to - CLEAR.from)));
  const undecided = Math.min(RIVAL.most, RIVAL.times * Math.max(0, rival - RIVAL.from - (RIVAL.ofClear - RIVAL.from) * clear));
  const aside = Math.max(unit * LINE_MISTAKE * Math.max(0, LINE_SEEN - score) ** 2, placed ? 0 : unit * Math.max(endOnDoubt(slant), undecided), besideStrings);
  return {
    ...sighting,
    line: line && { ...line, sigmaA: Math.hypot(line.sigmaA, aside), sigmaB: Math.hypot(line.sigmaB, aside) },
    frog: unsure(sighting.frog),
    tip: unsure(sighting.tip),
  };
}
