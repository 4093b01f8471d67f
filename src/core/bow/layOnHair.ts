import { type BowSighting, moveSideways } from './sighting';

/** Frames so far apart (seconds, 1 sigma) still tell of each other where the hair lies beside the line (ours: at a change of string that changes within half a second). */
const ALIKE = 0.15;
/** Farther off (seconds) they no longer count. */
const REACH = 4 * ALIKE;
/** The bow's gathered look slides from the line it was learnt on, mostly as the bow tilts from string to string (px at 960 across; ours: up to 2.5). */
const SLIDE = 0.8;
/** With less weight than one frame that tells the hair to a pixel (at 960 across) has, nothing is told. */
const LEAST_WEIGHT = 1;
/** No frame counts for more than one that is as sure as this (px at 960 across; ours). */
const LEAST_SIGMA = 0.1;

interface Seen {
  readonly t: number;
  readonly sighting: BowSighting;
}

/**
 * The sightings in order of time, followed from one mark, with their lines laid on the middle of the hair. A line keeps to the bow's
 * look, and so to the mark, which was off by its own error, and slides with the look; where the hair stands out from
 * what is behind it, the frames about tell by how much. `markSigma` is how far off (px, 1 sigma) the mark may be sideways at frog and tip,
 * `unit` px at 960 across. What the lines may still be off by is kept as their `zero`.
 */
export function layOnHair<T extends Seen>(frames: readonly T[], markSigma: { readonly frog: number; readonly tip: number }, unit: number): T[] {
  const seen = frames.filter((f) => f.sighting.line && f.sighting.hair).sort((a, b) => a.t - b.t);
  let first = 0;
  const at = (t: number, offset: 'atFrog' | 'atTip', own: 'sigmaFrog' | 'sigmaTip', mark: number) => {
    let [sw, so, sv, ss] = [0, 0, 0, 0];
    while (first < seen.length && seen[first]!.t < t - REACH) first++;
    for (let i = first; i < seen.length && seen[i]!.t <= t + REACH; i++) {
      const { t: there, sighting } = seen[i]!;
      const near = Math.exp(-(((there - t) / ALIKE) ** 2) / 2);
      const hair = sighting.hair!;
      const variance = hair[own] ** 2 + (LEAST_SIGMA * unit) ** 2;
      const w = near / variance;
      sw += w;
      so += w * hair[offset];
      sv += w * w * variance;
      ss += w * hair.shared;
    }
    if (sw * unit ** 2 < LEAST_WEIGHT) return { at: 0, sigma: mark };
    const look = sv / sw ** 2 + (ss / sw) ** 2;
    const prior = mark ** 2 + (SLIDE * unit) ** 2;
    return { at: (so / sw) * (prior / (prior + look)), sigma: Math.sqrt((prior * look) / (prior + look)) };
  };
  const inOrder = [...frames].sort((a, b) => a.t - b.t);
  return inOrder.map((frame) => {
    if (!frame.sighting.line) return frame;
    const frog = at(frame.t, 'atFrog', 'sigmaFrog', markSigma.frog);
    const tip = at(frame.t, 'atTip', 'sigmaTip', markSigma.tip);
    return { ...frame, sighting: { ...moveSideways(frame.sighting, frog.at, tip.at), hair: undefined, zero: { frog: frog.sigma, tip: tip.sigma } } };
  });
}
