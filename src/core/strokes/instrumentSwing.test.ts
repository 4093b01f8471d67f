import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../bow/sighting';
import { cameraFromFieldOfView } from '../geometry/camera';
import { type Pose, stepPose } from '../geometry/pose';
import { fromRotationVector } from '../geometry/rotation';
import { RADIANS } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import type { TrackedFrame } from '../measures/measureFrames';
import { normal, seededRandom } from '../random';
import { withSwing } from './instrumentSwing';
import type { Stroke } from './stroke';

const solution = { camera: cameraFromFieldOfView(960, 540), model: instrumentModel(dimensionsOf('violin', '4/4')) };
const base: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [0, 0, 1200] };
const stroke = { index: 0, first: 0, last: 30 } as Stroke;

/** Frames in which the instrument turns to and fro about an axis by so many degrees in all, with trembling. */
function turning(degrees: number, tremble: number, quality: number): TrackedFrame[] {
  const random = seededRandom(2);
  return Array.from({ length: 31 }, (_, i) => {
    const a = (degrees / 2) * Math.sin((Math.PI * i) / 15) * RADIANS;
    const shake = tremble * RADIANS * normal(random);
    return { index: i, t: i / 25, pose: stepPose(base, [0, a + shake, 0, 0, 0, 0]), quality, sighting: NO_BOW };
  });
}

const swing = (degrees: number, tremble = 0, quality = 0.9) => withSwing([stroke], turning(degrees, tremble, quality), solution)[0]!.instrumentSwing;

describe('swing of the instrument', () => {
  it('is the range of its long axis, up to what lies along the turning axis', () => {
    const [small, large] = [swing(4)!.value, swing(12)!.value];
    expect(large / small).toBeCloseTo(3, 1);
    expect(large).toBeGreaterThan(8);
    expect(large).toBeLessThanOrEqual(12.1);
  });
  it('does not add up trembling, and doubts more what was followed badly', () => {
    expect(swing(0, 0.3)!.value).toBeLessThan(1.2);
    expect(swing(5, 0, 0.6)!.u).toBeGreaterThan(1.5 * swing(5, 0, 0.9)!.u);
  });
  it('is absent where the instrument was not followed', () => {
    const lost = turning(5, 0, 0.9).map((f, i) => ({ ...f, pose: i < 27 ? undefined : f.pose }));
    expect(withSwing([stroke], lost, solution)[0]!.instrumentSwing).toBeUndefined();
  });
});
