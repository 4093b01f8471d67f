import { type BowState, hairLine } from '../../core/bow/bowState';
import { type BowSighting, endsApart, type HairEnds, NO_BOW } from '../../core/bow/sighting';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import type { BowFollower } from '../bow/bowFollower';
import { hairEnds } from '../bow/hairInPicture';
import { blankFilm, context } from '../bow/testViolin';

/** Frames of the film. */
export const FRAMES = 150;
/** The violin throughout. */
export const pose: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [-60, -60, 1500] };
/** Ends of the hair in the picture. */
export function endsOf(state: BowState, string: number): HairEnds {
  const line = hairLine(state, context.strings[string]!, context.hair, 1);
  return { frog: project(context.camera, toOuter(pose, line.frog))!, tip: project(context.camera, toOuter(pose, line.tip))! };
}
/** A bow going to and fro on the A string, at 30 frames a second. */
export const truth = Array.from({ length: FRAMES }, (_, i) => endsOf({ contact: 28, skew: 2, inclination: context.levels.natural[2]!, position: 0.5 - 0.4 * Math.cos(i / 12) }, 2));
/** A bow seen surely. */
export const sightingOf = ({ frog, tip }: HairEnds): BowSighting => ({
  line: { a: frog, b: tip, sigmaA: 1, sigmaB: 1, shareA: 0, shareB: 1 },
  frog: { point: frog, sigma: 3 },
  tip: { point: tip, sigma: 2 },
  score: 0.8,
});

export const source = blankFilm(FRAMES);

/** Follows the true bow when started near it, and sees nothing else. */
export function honestFollower(): BowFollower {
  let start: HairEnds | undefined;
  let on = false;
  return {
    learn: async () => ({ state: { contact: 28, skew: 2, inclination: 0, position: 0.5 }, string: 2 }),
    startAt: async (belief) => {
      start = hairEnds(pose, context, belief);
    },
    follow: async ({ index }) => {
      if (start) on = endsApart(start, truth[index]!) < 60;
      start = undefined;
      return { sighting: on ? sightingOf(truth[index]!) : NO_BOW, mistaken: 0, inPicture: undefined };
    },
    markSigma: async () => ({ frog: 1, tip: 1 }),
  };
}
