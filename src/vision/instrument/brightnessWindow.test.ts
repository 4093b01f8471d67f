import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import { brightnessWindow, narrownessOf } from './brightnessWindow';

const violin = instrumentModel(dimensionsOf('violin', '4/4'));
const camera = cameraFromFieldOfView(960, 540);
/** A violin at some distance (mm), its plate seen from so many degrees above. */
const seen = (above: number, distance: number): Pose => ({ rotation: fromRotationVector([Math.PI - ((90 - above) * Math.PI) / 180, 0, 0]), translation: [0, 0, distance] });

describe('the window over which brightness is made alike', () => {
  it('is wide near at hand, narrow for a whole player, and between the two an eleventh of the plate in the picture', () => {
    expect(brightnessWindow(seen(40, 1000), camera, violin)).toBe(6);
    expect(brightnessWindow(seen(12, 2200), camera, violin)).toBe(3);
    const across = 200 * Math.sin((25 * Math.PI) / 180) * (camera.focal / 1300);
    expect(brightnessWindow(seen(25, 1300), camera, violin)).toBeCloseTo(across / 11, 6);
  });
  it('follows the instrument and the pixels of the film', () => {
    const small = instrumentModel(dimensionsOf('violin', '1/4'));
    expect(brightnessWindow(seen(25, 1300), camera, small)).toBeLessThan(brightnessWindow(seen(25, 1300), camera, violin));
    const large = cameraFromFieldOfView(1920, 1080);
    expect(brightnessWindow(seen(25, 1300), large, violin)).toBeCloseTo(2 * brightnessWindow(seen(25, 1300), camera, violin), 6);
  });
  it('is told as a share from the widest to the narrowest', () => {
    expect(narrownessOf(6, camera)).toBe(0);
    expect(narrownessOf(3, camera)).toBe(1);
    expect(narrownessOf(9, cameraFromFieldOfView(1920, 1080))).toBeCloseTo(0.5, 9);
  });
});
