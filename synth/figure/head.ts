import type { Vec3 } from '../../src/core/geometry/vec3';
import { ball, carve, chain, ellipsoid, type Field, halfSpace, join, meet, mirrored, noise, roundCone, smoothMax, smoothMin, union } from '../surface/field';

/**
 * Frame of the head: x to its right, y forward, z to the crown, mm of a head 218 mm high; the ears' openings
 * lie near (+-70, -8, 2), the crown at z = 118.
 */
export const HEAD_HEIGHT = 218;

/** What makes one face unlike another; each about -1..1 except `child` (0..1). */
export interface Face {
  readonly child: number;
  readonly wide: number;
  readonly nose: number;
  readonly jaw: number;
  readonly cheeks: number;
  readonly brow: number;
}

export const EYE: Vec3 = [31, 66, 10];
export const EYE_RADIUS = 12.6;

/** Face, skull, ears and neck in one skin. */
export function headField(face: Face): Field {
  const c = face.child;
  const w = 1 + 0.03 * face.wide + 0.02 * c;
  const skull = ellipsoid([0, -14, 36], [73 * w, 90, 80]);
  const front = ellipsoid([0, 26, -16], [(60 + 3 * c) * w, 60, 76 - 6 * c]);
  const jaw = ellipsoid([0, 34, -56 + 6 * c], [(45 + 2 * face.jaw + 2 * c) * w, 42, 38 - 4 * c]);
  const chin = ball([0, 62 - 3 * c, -79 + 7 * c], 17 - 1.5 * c + face.jaw);
  let head: Field = union([skull, front], 30);
  head = join(head, jaw, 26);
  head = join(head, chin, 22);
  // Cheeks, round in children; cheekbones under the eyes.
  head = join(head, mirrored(ellipsoid([36 * w, 52, -30 + 3 * c], [22 + 3 * c, 20 + 2 * c + face.cheeks, 24])), 26);
  head = join(head, mirrored(roundCone([32, 67, -8], [56 * w, 40, -2], 9, 9)), 18);
  head = join(head, mirrored(roundCone([10, 79, 27], [42, 68, 30], 6.5 + (1 - c) * 1.5 + face.brow, 6)), 16);
  // Hollows of the eyes, then the lids over the eyeballs.
  head = carve(head, mirrored(ellipsoid([31, 86, 11], [21, 16, 13])), 13);
  const lid = mirrored(ball(EYE, EYE_RADIUS + 2.6));
  // The opening: an almond before the eyeball.
  const opening = mirrored(ellipsoid([31.5, EYE[1] + 15, 9.4], [13.5 + 1.2 * c, 12, 5.4 + 1.5 * c]));
  head = join(head, lid, 7);
  head = carve(head, opening, 1.6);
  // Nose: bridge, tip, wings, nostrils.
  const n = 1 + 0.1 * face.nose - 0.14 * c;
  head = join(head, roundCone([0, 78, 16], [0, 78 + 17 * n, -17 + 3 * c], 6.5 - c, 8 * n), 12);
  head = join(head, ball([0, 78 + 17.5 * n, -19 + 4 * c], 9.3 * n), 6);
  head = join(head, mirrored(ellipsoid([10.5 * n, 76 + 11 * n, -21 + 3.5 * c], [6.4 * n, 8 * n, 6 * n])), 5);
  head = carve(head, mirrored(ellipsoid([5.4 * n, 78 + 14 * n, -28 + 4 * c], [3 * n, 4.6 * n, 3])), 2.5);
  // Lips on a soft mound; the line between them.
  const m = mouthHeight(face);
  head = join(head, ellipsoid([0, 72, m], [27, 15, 19]), 14);
  head = join(
    head,
    mirrored(
      chain(
        [
          [0, 85.5, m + 4.2],
          [7, 85.5, m + 5],
          [20.5, 77, m + 2.8],
        ],
        [3.6, 3.8, 1.6],
      ),
    ),
    4,
  );
  head = join(
    head,
    mirrored(
      chain(
        [
          [0, 84.5, m - 5],
          [10, 82.5, m - 4.6],
          [20, 76.5, m + 2.2],
        ],
        [4.8, 4.4, 1.8],
      ),
    ),
    4,
  );
  head = carve(
    head,
    mirrored(
      chain(
        [
          [0, 91, m - 0.5],
          [10, 88.5, m],
          [22, 78, m + 3],
        ],
        [1.7, 1.6, 1.4],
      ),
    ),
    2.2,
  );
  head = carve(head, ellipsoid([0, 84, m + 15], [3, 6, 7]), 6);
  head = carve(head, ellipsoid([0, 82, m - 16], [14, 6, 5]), 9);
  // Ears: a bowl with a rim and a lobe.
  const ear = union([ellipsoid([73 * w, -10, 4], [6, 17, 27]), ball([70 * w, -1, -19], 8)], 8);
  const bowl = ellipsoid([80 * w, -6, 3], [6, 9, 15]);
  head = join(head, mirrored(carve(ear, bowl, 5)), 7);
  // Neck.
  head = join(head, roundCone([0, -16, -40], [0, -36, -150], 43 - 6 * c, 44 - 5 * c), 22);
  return head;
}

export type Hairdo = 'short' | 'bob' | 'ponytail' | 'curls' | 'bun' | 'fringe-bob';
export const HAIRDOS: readonly Hairdo[] = ['short', 'bob', 'ponytail', 'curls', 'bun', 'fringe-bob'];

/** The hair as one solid with locks; `style` decides how far it hangs. */
export function hairField(style: Hairdo, face: Face, seed: number): Field {
  const w = 1 + 0.03 * face.wide + 0.02 * face.child;
  const short = style === 'short';
  const curly = style === 'curls';
  const thick = curly ? 16 : short ? 8 : 9;
  const cap = ellipsoid([0, -15, 37], [73 * w + thick, 90 + thick, 80 + thick]);
  let hair: Field = cap;
  const fringe = style === 'fringe-bob' || style === 'short' || curly;
  if (style === 'bob' || style === 'fringe-bob') {
    hair = join(hair, mirrored(ellipsoid([60 * w, -22, -30], [25, 50, 72])), 20);
    hair = join(hair, ellipsoid([0, -60, -30], [70 * w, 42, 70]), 24);
  } else if (style === 'ponytail') {
    hair = join(
      hair,
      chain(
        [
          [0, -98, 50],
          [0, -124, 44],
          [0, -134, 0],
          [0, -120, -60],
          [0, -112, -110],
        ],
        [18, 22, 25, 20, 5],
        10,
      ),
      8,
    );
  } else if (style === 'bun') {
    hair = join(hair, ball([0, -98, 84], 34), 8);
  } else {
    hair = join(hair, ellipsoid([0, -66, -12], [62 * w, 40, 50]), 20);
  }
  // Forehead, temples and face stay free; behind the ear the hair comes down.
  const line = fringe ? 52 : 70;
  const facePart: Field = (x, y, z) => {
    const edge = fringe ? line + 5 * Math.sin(x * 0.11 + seed) + 3 * Math.sin(x * 0.31 + 2 * seed) : line + 10 - 0.0035 * x * x;
    const front = z - edge - (curly ? 4 : 0);
    const side = y - 14 - 0.3 * (z - 20) - (fringe ? 6 : 0);
    return smoothMax(front, -side, 10);
  };
  hair = carve(hair, facePart, 5);
  // About the ears, where the hair is short or tied.
  if (style !== 'bob' && style !== 'fringe-bob') hair = carve(hair, mirrored(ellipsoid([74 * w, -6, -4], [26, 25, 33])), 8);
  const bottom = style === 'bob' || style === 'fringe-bob' ? -88 : short || curly ? -66 : -64;
  if (style !== 'ponytail') hair = meet(hair, halfSpace([0, 0, bottom], [0, 0.25, -1]), 8);
  else hair = meet(hair, (_x, y, z) => smoothMin(-64 - z, 92 + y, 6), 8);
  // Locks: ridges along the fall of the hair, tighter and rounder in curls.
  return (x, y, z) => {
    const d = hair(x, y, z);
    if (Math.abs(d) > 14) return d;
    const turn = Math.atan2(x, y + 30) * 14;
    const fall = curly
      ? 6 * noise(x / 13, y / 13, z / 13, seed) + 3 * noise(x / 6, y / 6, z / 6, seed + 1)
      : 2.2 * noise(turn * 1.1, z / 60, y / 70, seed) + 1.2 * noise(turn * 2.7, z / 40, y / 50, seed + 1);
    return d + fall;
  };
}

/** Where the skin of the face is painted: the lips' line height, for the painter. */
export const mouthHeight = (face: Face): number => -48 + 4 * face.child;

/** A face of its own by seed. */
export function faceOf(random: () => number, child: number): Face {
  const about = () => 2 * random() - 1;
  return { child, wide: about(), nose: about(), jaw: about(), cheeks: about(), brow: about() };
}
