import type { Vec2 } from '../geometry/vec3';
import { median, SIGMA_OF_MEDIAN } from '../statistics';
import { type BowSighting, hairEndsOf } from './sighting';

/** Where the network is sure of the frog it sees it off along the bow by so much of its length (1 sigma, ours: 90 pictures of 31 films of two renderers). */
const OF_ONE = 0.02;
/** How far it may be off in all pictures of a film alike: nothing beyond chance in those films, but a hold they do not show may mislead it (ours, by caution). */
const OF_ALL = 0.012;
/** With fewer looks nothing is told (ours). */
const LEAST_LOOKS = 3;
/** Farther beside the bow than this share of its length, or farther along it, the network saw something else (ours). */
const BESIDE = 0.04;
const ALONG = 0.2;

/**
 * The frames with the frog moved along the bow to where looks at single pictures have it in the mean, in as far as it was
 * placed by guess: wherever it was thought to be in the first picture, it is followed there ever after, while looks err
 * each by itself. `looks`: where the network is sure to see the frog, px, by frame. Frames are given back as they were
 * where too few looks tell.
 */
export function frogByLooks<T extends { readonly index: number; readonly sighting: BowSighting }>(frames: readonly T[], looks: ReadonlyMap<number, Vec2>): T[] {
  const offs = frames.flatMap(({ index, sighting }) => {
    const look = looks.get(index);
    const off = look && sighting.frog?.guess ? offOf(sighting, look) : undefined;
    return off === undefined ? [] : [off];
  });
  if (offs.length < LEAST_LOOKS) return [...frames];
  const usual = median(offs);
  const scatter = SIGMA_OF_MEDIAN * median(offs.map((o) => Math.abs(o - usual)));
  const looked = Math.max(OF_ONE, scatter) ** 2 / offs.length + OF_ALL ** 2;
  return frames.map((frame) => {
    const { sighting } = frame;
    const ends = hairEndsOf(sighting);
    const { frog } = sighting;
    if (!ends || !frog?.guess) return frame;
    const along: Vec2 = [ends.tip[0] - ends.frog[0], ends.tip[1] - ends.frog[1]];
    const length = Math.hypot(...along);
    const guessed = (frog.guess / length) ** 2;
    const moved = usual * (guessed / (guessed + looked));
    const guess = length * Math.sqrt((guessed * looked) / (guessed + looked));
    const own = frog.own ?? frog.sigma;
    const sigma = Math.sqrt(Math.max(own ** 2, frog.sigma ** 2 - frog.guess ** 2) + guess ** 2);
    return { ...frame, sighting: { ...sighting, frog: { ...frog, point: [frog.point[0] + moved * along[0], frog.point[1] + moved * along[1]] as Vec2, guess, sigma } } };
  });
}

/** How much nearer the tip than it was followed a look has the frog, as a share of the bow; undefined where it has something else. */
function offOf(sighting: BowSighting, look: Vec2): number | undefined {
  const ends = hairEndsOf(sighting);
  if (!ends) return undefined;
  const [x, y] = [ends.tip[0] - ends.frog[0], ends.tip[1] - ends.frog[1]];
  const squared = x * x + y * y;
  const [dx, dy] = [look[0] - sighting.frog!.point[0], look[1] - sighting.frog!.point[1]];
  const along = (dx * x + dy * y) / squared;
  const beside = (dx * y - dy * x) / squared;
  return Math.abs(along) < ALONG && Math.abs(beside) < BESIDE ? along : undefined;
}
