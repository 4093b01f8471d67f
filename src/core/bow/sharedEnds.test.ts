import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import type { Mat3 } from '../geometry/rotation';
import { addScaled, cross, DEGREES, dot, mix, normalize, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import { stringLevels, stringLines } from '../instrument/strings';
import { normal, seededRandom } from '../random';
import { type BowState, hairLine } from './bowState';
import type { BowFrame } from './chooseStrings';
import { type BowContext, imageResiduals, LENGTH_SIGMA } from './residuals';
import { sharedShift } from './sharedEnds';
import type { EndSighting } from './sighting';
import { smoothBow } from './smoothBow';

const model = instrumentModel(dimensionsOf('violin', '4/4'));
const strings = stringLines(model, 'violin');
const camera = cameraFromFieldOfView(1280, 720);
const context: BowContext = { camera, strings, levels: stringLevels(model, 'violin'), hair: 650, side: 1, lengthSigma: LENGTH_SIGMA };

/** From the bow-arm side, a little over the plate: the bow comes toward the camera, and its skew shows in its length more than in its line. */
const pose: Pose = (() => {
  const forward = normalize([0.45, 0.75, -0.3]);
  const right = normalize(cross(forward, [0, 0, 1]));
  return { rotation: [...right, ...cross(forward, right), ...forward] as unknown as Mat3, translation: [0, 0, 1000] };
})();

const stroking = (t: number): BowState => ({ contact: 28, skew: 4 * Math.sin(2 * t), inclination: -7.7, position: 0.5 - 0.42 * Math.cos(2.2 * t) });

/** Frames that show the hand, so many mm before the frog as seen in the first of them, in place of the frog, and a bow longer than thought. */
function film({ before, stretch, told }: { before: number; stretch: number; told: boolean }): BowFrame[] {
  const random = seededRandom(4);
  let hand: { along: number; across: number } | undefined;
  let first = 0;
  return Array.from({ length: 120 }, (_, i): BowFrame => {
    const t = i / 25;
    const { frog, tip } = hairLine(stroking(t), strings[2]!, 650 * (1 + stretch), 1);
    const outer = { frog: toOuter(pose, frog), tip: toOuter(pose, tip) };
    const b = normalize(subtract(outer.tip, outer.frog));
    const sight = normalize(outer.frog);
    const angle = Math.acos(dot(b, sight));
    const across = normalize(addScaled(sight, b, -dot(sight, b)));
    if (!hand) {
      hand = { along: -before * Math.cos(angle), across: -before * Math.sin(angle) };
      first = angle;
    }
    const image = (p: Vec3): Vec2 => {
      const [u, v] = project(camera, p)!;
      return [u + 0.4 * normal(random), v + 0.4 * normal(random)];
    };
    const seenFrog = addScaled(addScaled(outer.frog, b, hand.along), across, hand.across);
    const end = (p: Vec3, parallax: number): EndSighting => ({ point: image(p), sigma: 30, own: 3, ...(told ? { parallax } : {}) });
    return {
      t,
      pose,
      sighting: {
        line: { a: image(mix(outer.frog, outer.tip, 0.05)), b: image(mix(outer.frog, outer.tip, 0.95)), sigmaA: 0.4, sigmaB: 0.4, shareA: 0.05, shareB: 0.95 },
        frog: end(seenFrog, (camera.focal / outer.frog[2]) * Math.sin(angle - first)),
        tip: end(outer.tip, 0),
        score: 0.9,
      },
    };
  });
}

const skewError = (frames: readonly BowFrame[], result: ReturnType<typeof smoothBow>) =>
  Math.sqrt(frames.reduce((sum, { t }, i) => sum + (result.states[i]!.skew - stroking(t).skew) ** 2, 0) / frames.length);

describe('what all frames have wrong alike about the ends', () => {
  it('is found: a hand before the frog does not turn the bow', () => {
    const told = film({ before: 60, stretch: 0, told: true });
    const result = smoothBow(context, told);
    expect(result.context.shared!.frog.depth).toBeLessThan(-25);
    const untold = film({ before: 60, stretch: 0, told: false });
    expect(skewError(told, result)).toBeLessThan(0.85 * skewError(untold, smoothBow(context, untold)));
  });

  it('is found: a bow that is longer than thought is known by its longer look in all frames, whichever way it points', () => {
    const longer = smoothBow(context, film({ before: 0, stretch: 0.03, told: true }));
    const shorter = smoothBow(context, film({ before: 0, stretch: -0.03, told: true }));
    expect(longer.context.shared!.stretch - shorter.context.shared!.stretch).toBeGreaterThan(0.01);
  });

  it('leaves doubt: an end placed by guess makes the skew less sure in such a view', () => {
    const placed = film({ before: 0, stretch: 0, told: true });
    const guessed = placed.map((f) => ({ ...f, sighting: { ...f.sighting, frog: { ...f.sighting.frog!, guess: 20 } } }));
    const mid = (frames: BowFrame[]) => smoothBow(context, frames).sigma[60]!.skew;
    expect(mid(guessed)).toBeGreaterThan(1.05 * mid(placed));
  });

  it('is none of an end that was told otherwise than by its look', () => {
    const { tip } = hairLine(stroking(0), strings[2]!, 650, 1);
    const [u, v] = project(camera, toOuter(pose, tip))!;
    const shared = { stretch: 0, frog: { along: 0, depth: 0 }, tip: { along: 10, depth: 0 } };
    const residual = (end: Partial<EndSighting>) => {
      const out = [0, 0, 0, 0];
      imageResiduals({ ...context, shared }, pose, { line: undefined, frog: undefined, tip: { point: [u, v], sigma: 4, ...end }, score: 1 }, 2, stroking(0), out, 0);
      return out[3]!;
    };
    expect(residual({})).toBeCloseTo(0, 6);
    expect(residual({ own: 4 })).toBeGreaterThan(0.1);
  });

  it('shifts what is seen toward the tip by the share of the depth that has turned into the picture', () => {
    // Across the picture a hand 40 mm before the frog is seen at the frog; with the tip turned away by 30 degrees half of that shows, toward the tip.
    const turned = { point: [0, 0] as Vec2, sigma: 1, parallax: 0.8 * Math.sin((60 - 90) / DEGREES) };
    expect(sharedShift({ along: 0, depth: -40 }, turned, 0.7)).toBeCloseTo(0.8 * 20, 9);
    expect(sharedShift({ along: 3, depth: 0 }, turned, 0.7)).toBeCloseTo(2.1, 9);
  });
});
