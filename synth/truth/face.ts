import { HEAD_POINTS } from '../../src/core/body/headPose';
import { FACE_POINTS } from '../../src/core/body/sighting';
import { add, addScaled, cross, distance, dot, mix, normalize, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';

/** Places of a face's points (in the order of FACE_POINTS) on a head with its ears and nose there; lengths as theirs. */
export function facePoints(rightEar: Vec3, leftEar: Vec3, nose: Vec3): Vec3[] {
  const ears = mix(rightEar, leftEar, 0.5);
  const toLeft = normalize(subtract(leftEar, rightEar));
  const straight = subtract(nose, ears);
  const toNose = normalize(addScaled(straight, toLeft, -dot(straight, toLeft)));
  // In the head's frame the nose lies ahead of the ears and a little lower.
  const [, drop, back] = subtract(HEAD_POINTS.nose, HEAD_POINTS['ear.left']);
  const [sine, cosine] = [drop, -back].map((v) => v / Math.hypot(drop, back)) as [number, number];
  const aside = cross(toNose, toLeft);
  const down = subtract(scale(toNose, sine), scale(aside, cosine));
  const inward = subtract(scale(toNose, -cosine), scale(aside, sine));
  const size = distance(rightEar, leftEar) / distance(HEAD_POINTS['ear.right'], HEAD_POINTS['ear.left']);
  return FACE_POINTS.map((name) => {
    const [x, y, z] = subtract(HEAD_POINTS[name], mix(HEAD_POINTS['ear.right'], HEAD_POINTS['ear.left'], 0.5));
    return add(ears, scale(addScaled(addScaled(scale(toLeft, x), down, y), inward, z), size));
  });
}
