import { add, addScaled, cross, DEGREES, distance, dot, length, normalize, scale, subtract, type Vec3 } from '../geometry/vec3';

/** The 21 joints of a hand: wrist; thumb CMC, MCP, IP, tip; index, middle, ring, little: MCP, PIP, DIP, tip. mm. */
export type HandPoints = readonly Vec3[];

export const HAND_POINTS = 21;

/** Which hand: + right, - left (mirrored). */
export type HandSide = 1 | -1;

export const FINGERS = ['index', 'middle', 'ring', 'little'] as const;
export type Finger = (typeof FINGERS)[number];

/** First joint (MCP) of a finger in the list of points. */
const FIRST: Record<Finger, number> = { index: 5, middle: 9, ring: 13, little: 17 };

/** Axes of the palm: along to the middle knuckle, radial to the thumb's side, dorsal = along x radial: out of the back of a right hand, out of the palm of a left one; unit vectors. */
export interface PalmAxes {
  readonly along: Vec3;
  readonly radial: Vec3;
  readonly dorsal: Vec3;
}

/** Axes of the palm from wrist, index, middle and little knuckle. */
export function palmAxes(points: HandPoints): PalmAxes & { readonly width: number } {
  const along = normalize(subtract(points[9]!, points[0]!));
  const across = subtract(points[5]!, points[17]!);
  const radial = normalize(addScaled(across, along, -dot(across, along)));
  return { along, radial, dorsal: cross(along, radial), width: length(across) };
}

/** Signed angle from one segment to the next, degrees: + about the hinge axis. */
function bendAbout(a: Vec3, b: Vec3, hinge: Vec3): number {
  const u = normalize(a);
  const v = normalize(b);
  const angle = Math.acos(Math.max(-1, Math.min(1, dot(u, v)))) * DEGREES;
  return dot(cross(u, v), hinge) < 0 ? -angle : angle;
}

/** An axis carried along from one segment to the next: kept square to both. */
const carried = (axis: Vec3, segment: Vec3): Vec3 => {
  const u = normalize(segment);
  return normalize(addScaled(axis, u, -dot(axis, u)));
};

export interface FingerBends {
  readonly mcp: number;
  readonly pip: number;
  readonly dip: number;
}

/** Signed angle in the plane square to the hinge: what is bent sideways does not count. */
function bendInPlane(a: Vec3, b: Vec3, hinge: Vec3): number {
  const v = addScaled(b, hinge, -dot(b, hinge));
  return Math.atan2(dot(cross(a, v), hinge), dot(a, v)) * DEGREES;
}

/**
 * Bends of a finger, degrees, about the axis across the palm carried along the finger: + toward the palm, - bent
 * back. The knuckle also spreads sideways; only its bend toward the palm is told.
 */
export function fingerBends(points: HandPoints, finger: Finger, side: HandSide): FingerBends {
  const first = FIRST[finger];
  // Flexion turns a finger from along toward the palm: about the radial axis in a right hand, against it in a left one.
  let hinge = scale(palmAxes(points).radial, side);
  const segments = [subtract(points[first]!, points[0]!), ...[0, 1, 2].map((i) => subtract(points[first + i + 1]!, points[first + i]!))];
  const out = [0, 1, 2].map((i) => {
    hinge = carried(hinge, segments[i]!);
    return (i === 0 ? bendInPlane : bendAbout)(segments[i]!, segments[i + 1]!, hinge);
  });
  return { mcp: out[0]!, pip: out[1]!, dip: out[2]! };
}

/**
 * Bends of the thumb, degrees: + the usual way, toward the palm. Its own hinge lies near the palm's normal,
 * turned to the thumb's side.
 */
export function thumbBends(points: HandPoints, side: HandSide): { readonly mcp: number; readonly ip: number } {
  const { radial, dorsal } = palmAxes(points);
  const segments = [1, 2, 3].map((i) => subtract(points[i + 1]!, points[i]!)) as [Vec3, Vec3, Vec3];
  const out = scale(dorsal, side);
  const hinge = scale(add(scale(out, -1), scale(radial, -THUMB_TURN)), side);
  return { mcp: bendAbout(segments[0], segments[1], carried(hinge, segments[0])), ip: bendAbout(segments[1], segments[2], carried(hinge, segments[1])) };
}

/**
 * Slant of the thumb's last bone to the stick's normal, degrees, looking down on the stick's back with the player's
 * eyes: 0 twelve o'clock, + toward the frog (30 one o'clock). `axes` run along the bow to its tip, and toward the player.
 */
export function thumbSlant(points: HandPoints, axes: readonly [along: Vec3, back: Vec3, ...rest: Vec3[]]): number {
  const bone = subtract(points[4]!, points[3]!);
  return Math.atan2(-dot(bone, axes[0]), -dot(bone, axes[1])) * DEGREES;
}

/** How far the thumb's hinge is turned from the palm's normal to the thumb's side (from memory, anatomy). */
const THUMB_TURN = 0.3;

/** Bend of the wrist, degrees: flexion + palmward, deviation + to the little finger's side. `forearm` points from elbow to wrist. */
export function wristBend(points: HandPoints, forearm: Vec3, side: HandSide): { readonly flexion: number; readonly deviation: number } {
  const { along, radial, dorsal } = palmAxes(points);
  const f = normalize(forearm);
  const out = scale(dorsal, side);
  const flat = dot(f, along);
  return { flexion: Math.atan2(dot(f, out), flat) * DEGREES, deviation: Math.atan2(dot(f, radial), flat) * DEGREES };
}

/** Shortest distance from a point to the line of the stick, mm. */
function fromStick(p: Vec3, stick: { readonly a: Vec3; readonly b: Vec3 }): number {
  const u = normalize(subtract(stick.b, stick.a));
  const d = subtract(p, stick.a);
  return length(addScaled(d, u, -dot(d, u)));
}

/** Little fingertip to the stick in finger widths (a quarter of the palm's width). */
export const littleToStick = (points: HandPoints, stick: { readonly a: Vec3; readonly b: Vec3 }): number => fromStick(points[20]!, stick) / (palmAxes(points).width / 4);

/**
 * Where the stick crosses the middle finger, in bones from its DIP joint toward the knuckle: 0 at DIP, 1 at PIP,
 * 2 at MCP, negative toward the tip (-1).
 */
export function middleCrossing(points: HandPoints, stick: { readonly a: Vec3; readonly b: Vec3 }): number {
  const u = normalize(subtract(stick.b, stick.a));
  // Seen along the stick everything lies in a plane; the place nearest to its axis is looked for bone by bone.
  const flat = (p: Vec3): Vec3 => {
    const d = subtract(p, stick.a);
    return addScaled(d, u, -dot(d, u));
  };
  const joints = [12, 11, 10, 9].map((i) => flat(points[i]!));
  let best = { at: 0, distance: Number.POSITIVE_INFINITY };
  for (let i = 0; i < 3; i++) {
    const bone = subtract(joints[i + 1]!, joints[i]!);
    const t = Math.min(1, Math.max(0, -dot(joints[i]!, bone) / Math.max(1e-9, dot(bone, bone))));
    const d = length(addScaled(joints[i]!, bone, t));
    if (d < best.distance) best = { at: i - 1 + t, distance: d };
  }
  return best.at;
}

/** Gap between two neighbouring fingertips in finger widths. */
export const tipGap = (points: HandPoints, a: Finger, b: Finger): number => distance(points[FIRST[a] + 3]!, points[FIRST[b] + 3]!) / (palmAxes(points).width / 4);

/** Area within thumb, palm and middle finger over the square of the palm's width: 0 closed. */
export function handOpening(points: HandPoints): number {
  const ring = [0, 1, 2, 3, 4, 12, 11, 10, 9].map((i) => points[i]!);
  const middle = scale(
    ring.reduce((s, p) => add(s, p), [0, 0, 0] as Vec3),
    1 / ring.length,
  );
  const sum = ring.reduce((s, p, i) => add(s, cross(subtract(p, middle), subtract(ring[(i + 1) % ring.length]!, middle))), [0, 0, 0] as Vec3);
  return length(sum) / 2 / palmAxes(points).width ** 2;
}
