import { describe, expect, it } from 'vitest';
import { project } from '../../core/geometry/camera';
import { type Pose, stepPose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector, multiply } from '../../core/geometry/rotation';
import { contourPlace } from '../../core/instrument/contours';
import { median } from '../../core/statistics';
import { contourEdges } from './contourEdges';
import { type ContourProfile, contourProfiles } from './contourSearch';
import { camera, model, paintViolin } from './paintedViolin';

const pose: Pose = { rotation: multiply(fromRotationVector([0, 0, 0.5]), fromRotationVector([Math.PI - 0.75, 0, 0])), translation: [-60, 20, 1100] };
const picture = paintViolin(pose, 4);
const SEARCH = 5;
const profilesAt = (at: Pose, bow?: Parameters<typeof contourProfiles>[5]) => contourProfiles(picture, camera, model, at, SEARCH, bow);
const edgesAt = (at: Pose) => contourEdges(profilesAt(at), camera, at, 1);
/** How far an edge lies from where a pose puts its contour, across, px. */
const offsets = (at: Pose) =>
  edgesAt(at).map(({ station, place, across }) => {
    const [x, y] = project(camera, toOuter(at, contourPlace(model, station)))!;
    return { contour: station.contour, off: (place[0] - x) * across[0] + (place[1] - y) * across[1], across };
  });

describe('looking across contours', () => {
  it('finds rims and fingerboard within two pixels of where they were painted', () => {
    const found = offsets(pose);
    expect(found.length).toBeGreaterThan(100);
    for (const curve of ['plate', 'fingerboard']) {
      const those = found.filter((o) => o.contour.startsWith(curve));
      expect(those.length, curve).toBeGreaterThan(15);
      expect(median(those.map((o) => Math.abs(o.off))), curve).toBeLessThan(2);
    }
  });

  it('follows a picture that lies elsewhere: edges are off by the shift, as far as it lies across them', () => {
    const [right, down] = [3 * (1100 / camera.focal), -2 * (1100 / camera.focal)];
    // The pose shifted the other way looks at the same picture with every edge moved by (3, -2) px.
    const shifted = stepPose(pose, [0, 0, 0, -right, -down, 0]);
    const before = median(offsets(pose).map((o) => Math.abs(o.off)));
    const errors = offsets(shifted).map((o) => Math.abs(o.off - (3 * o.across[0] - 2 * o.across[1])));
    expect(median(errors)).toBeLessThan(before + 0.4);
    expect(median(offsets(shifted).map((o) => Math.abs(o.off)))).toBeGreaterThan(before + 0.4);
  });

  it('says of every profile how strongly the picture changes, from 0 to 1, its middle where the pose puts the contour', () => {
    const check = ({ strength, point, across, station }: ContourProfile) => {
      expect(strength.length % 2).toBe(1);
      expect(Math.min(...strength)).toBeGreaterThanOrEqual(0);
      expect(Math.max(...strength)).toBeLessThan(1);
      expect(Math.hypot(...across)).toBeCloseTo(1, 9);
      const [x, y] = project(camera, toOuter(pose, contourPlace(model, station)))!;
      expect(Math.hypot(point[0] - x, point[1] - y)).toBeLessThan(1e-9);
    };
    profilesAt(pose).forEach(check);
  });

  it('leaves out what the bow covers', () => {
    const across = profilesAt(pose).filter((p) => p.station.contour.startsWith('plate'))[10]!.point;
    const bow = { frog: [across[0] - 200, across[1] - 30] as const, tip: [across[0] + 200, across[1] + 30] as const };
    const covered = profilesAt(pose, bow);
    expect(covered.length).toBeLessThan(profilesAt(pose).length);
    const n = Math.hypot(400, 60);
    for (const { point } of covered) expect(Math.abs((point[0] - bow.frog[0]) * 60 - (point[1] - bow.frog[1]) * 400) / n).toBeGreaterThan(10);
  });

  it('looks at the rim of the back only where the ribs face the camera, and at no contour behind the wood', () => {
    const contours = new Set(profilesAt(pose).map((p) => p.station.contour));
    // Seen from one side: the back's rim on that side, the fingerboard's far one, whose wall does not go on below it, both rims of the plate.
    expect([...contours].filter((c) => c.startsWith('back'))).toHaveLength(1);
    expect([...contours].filter((c) => c === 'fingerboard.low' || c === 'fingerboard.high')).toHaveLength(1);
    expect(contours.has('plate.low') && contours.has('plate.high')).toBe(true);
    const turned: Pose = { ...pose, rotation: multiply(pose.rotation, fromRotationVector([1.5, 0, 0])) };
    const other = new Set(profilesAt(turned).map((p) => p.station.contour));
    expect(other).not.toEqual(contours);
  });

  it('finds nothing in a plain picture', () => {
    const plain = { width: camera.width, height: camera.height, data: new Uint8ClampedArray(4 * camera.width * camera.height).fill(90) };
    expect(contourEdges(contourProfiles(plain, camera, model, pose, SEARCH), camera, pose, 1)).toEqual([]);
  });

  it('counts once what the model is off alike in several frames', () => {
    const sigma = (frames: number) => contourEdges(profilesAt(pose), camera, pose, 1, frames)[0]!.sigma;
    expect(sigma(4)).toBeGreaterThan(1.4 * sigma(1));
    // What the picture errs by does count anew in each.
    expect(sigma(4)).toBeLessThan(1.95 * sigma(1));
  });
});
