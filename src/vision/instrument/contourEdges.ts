import type { Camera } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import type { ContourSighting } from '../../core/instrument/contours';
import type { ContourProfile } from './contourSearch';

/** What the model's curve is off from this instrument's, mm (ours: outlines differ so), and the least error of an edge in the picture, px at 960. */
const CURVE_SIGMA_MM = 1.2;
const EDGE_SIGMA = 0.6;
/** An edge weaker than this is none. */
const LEAST_STRENGTH = 0.25;

/**
 * The strongest edge of each profile near its middle. `unit` px at 960 across. Where so many `frames` are taken together,
 * what the curve is off is the same in all of them and counts once.
 */
export function contourEdges(profiles: readonly ContourProfile[], camera: Camera, pose: Pose, unit: number, frames = 1): ContourSighting[] {
  const sigma = Math.hypot(EDGE_SIGMA * unit, (CURVE_SIGMA_MM * Math.sqrt(frames) * camera.focal) / pose.translation[2]);
  return profiles.flatMap(({ station, point, across, pitch, strength }) => {
    const middle = strength.length >> 1;
    let best = -1;
    let most = 0;
    for (let i = 1; i < strength.length - 1; i++) {
      const s = strength[i]!;
      if (s < LEAST_STRENGTH || s < strength[i - 1]! || s < strength[i + 1]!) continue;
      const worth = s * (1 - 0.5 * ((i - middle) / middle) ** 2);
      if (worth > most) {
        most = worth;
        best = i;
      }
    }
    if (best < 0) return [];
    const [l, t, h] = [strength[best - 1]!, strength[best]!, strength[best + 1]!];
    const bend = l - 2 * t + h;
    const offset = (best - middle + (bend < -1e-6 ? (0.5 * (l - h)) / bend : 0)) * pitch;
    return [{ station, place: [point[0] + across[0] * offset, point[1] + across[1] * offset] as const, across, sigma }];
  });
}
