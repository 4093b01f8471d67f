import { rotate } from '../geometry/rotation';
import { addScaled, DEGREES, dot, length, normalize, type Vec3 } from '../geometry/vec3';
import type { MarksSolution } from '../instrument/solveMarks';
import { poseNoise, type TrackedFrame } from '../measures/measureFrames';
import { median, quantile } from '../statistics';
import type { Stroke } from './stroke';

/** Frames of a stroke in which the instrument must have been followed. */
const LEAST_FRAMES = 5;
/** A held phone turns by about this much within a stroke, degrees (ours). */
const SHAKE = 0.4;

/** Frames of a running median that takes the tracker's trembling out. */
const CALM = 5;

/**
 * Strokes with how far the instrument swung in each: the range of its long axis along the way it moved most,
 * single trembling frames left out. The camera is taken to stand still.
 */
export function withSwing(strokes: readonly Stroke[], tracked: readonly TrackedFrame[], { camera, model }: Pick<MarksSolution, 'camera' | 'model'>): Stroke[] {
  return strokes.map((stroke) => {
    const seen = tracked
      .slice(stroke.first, stroke.last + 1)
      .flatMap((f) => (f.pose ? [{ axis: rotate(f.pose.rotation, [1, 0, 0]), depth: f.pose.translation[2], noise: poseNoise(f) }] : []));
    if (seen.length < LEAST_FRAMES) return stroke;
    const middle = normalize(seen.reduce<Vec3>((sum, s) => addScaled(sum, s.axis, 1), [0, 0, 0]));
    const off = seen.map(({ axis }) => addScaled(axis, middle, -dot(axis, middle)));
    const along = mainDirection(off);
    const angles = off.map((o) => Math.asin(Math.max(-1, Math.min(1, dot(o, along)))) * DEGREES);
    const calm = angles.map((_, i) => median(angles.slice(Math.max(0, i - (CALM >> 1)), i + (CALM >> 1) + 1)));
    const value = Math.max(...calm) - Math.min(...calm);
    // One end shifted against the other by the tracker's noise, over the length seen.
    const px =
      (Math.max(camera.width, camera.height) / 960) *
      quantile(
        seen.map((s) => s.noise),
        0.75,
      );
    const pxPerMm = camera.focal / median(seen.map((s) => s.depth));
    return { ...stroke, instrumentSwing: { value, u: Math.hypot((2 * px * DEGREES) / (pxPerMm * model.stringLength), SHAKE) } };
  });
}

/** Unit vector along which small vectors spread most (power iteration on their sum of squares). */
function mainDirection(vectors: readonly Vec3[]): Vec3 {
  let v: Vec3 = vectors.reduce((a, b) => (length(b) > length(a) ? b : a));
  if (length(v) < 1e-9) return [1, 0, 0];
  for (let k = 0; k < 20; k++) v = normalize(vectors.reduce<Vec3>((sum, x) => addScaled(sum, x, dot(x, v)), [0, 0, 0]));
  return v;
}
