import { addScaled, cross, DEGREES, distance, dot, length, mix, normalize, subtract, type Vec3 } from '../geometry/vec3';
import { headingFrom, torsoAxes } from './torso';

/** Joints that tell of stance, seat and head. */
export const STANCE_JOINTS = [
  'shoulder.right',
  'shoulder.left',
  'hip.right',
  'hip.left',
  'knee.right',
  'knee.left',
  'ankle.right',
  'ankle.left',
  'elbow.left',
  'wrist.left',
  'ear.right',
  'ear.left',
  'nose',
] as const;
export type StanceJoint = (typeof STANCE_JOINTS)[number];

/** Where the player's joints are, in any frame with a known up; mm. */
export type Stance = Readonly<Record<StanceJoint, Vec3>>;

const between = (s: Stance, part: 'shoulder' | 'hip' | 'ear'): Vec3 => mix(s[`${part}.right`], s[`${part}.left`], 0.5);
const shoulderWidth = (s: Stance): number => distance(s['shoulder.right'], s['shoulder.left']);

/** From between the hips to between the shoulders, in the torso's level axes and up. */
function trunk(s: Stance, up: Vec3): { forward: number; left: number; up: number } {
  const axes = torsoAxes(s['shoulder.right'], s['shoulder.left'], up);
  const d = subtract(between(s, 'shoulder'), between(s, 'hip'));
  return { forward: dot(d, axes.forward), left: dot(d, axes.left), up: dot(d, up) };
}

/** Lean of the trunk sideways, degrees: 0 upright, + to the player's left. */
export function trunkLean(s: Stance, up: Vec3): number {
  const t = trunk(s, up);
  return Math.atan2(t.left, t.up) * DEGREES;
}

/** Lean of the trunk forward, degrees: 0 upright, + stooping, - leaning back. */
export function trunkStoop(s: Stance, up: Vec3): number {
  const t = trunk(s, up);
  return Math.atan2(t.forward, t.up) * DEGREES;
}

/**
 * Height of the ears over the shoulders of a player at ease with the instrument up, in shoulder widths: a grown player's,
 * and what it grows by for each mm the shoulders are narrower, for children's heads are large (ours, from figures of two renderers).
 */
const EASE = { grown: 0.63, width: 318, perMm: 0.0012 } as const;

/** How far the shoulders are raised toward the ears, in shoulder widths: 0 at ease, + raised. */
export function shoulderLift(s: Stance, up: Vec3): number {
  const width = shoulderWidth(s);
  return EASE.grown + EASE.perMm * Math.max(0, EASE.width - width) - dot(subtract(between(s, 'ear'), between(s, 'shoulder')), up) / width;
}

/** How far the face is turned from the chest's direction, degrees: + to the player's left, where the scroll is. */
export const headTurn = (s: Stance, up: Vec3): number =>
  headingFrom(torsoAxes(s['shoulder.right'], s['shoulder.left'], up).forward, cross(subtract(s['ear.left'], s['ear.right']), up), up);

/** Tilt of the head sideways, degrees: + the left ear lower, down onto the instrument. */
export const headTilt = (s: Stance, up: Vec3): number => Math.asin(clamped(dot(subtract(s['ear.right'], s['ear.left']), up) / distance(s['ear.right'], s['ear.left']))) * DEGREES;

/** Distance between the ankles over that between the shoulders. */
export const stanceWidth = (s: Stance): number => distance(s['ankle.right'], s['ankle.left']) / shoulderWidth(s);

/**
 * How far out the left elbow hangs from the trunk's left side as seen from the front, in shoulder widths: from the line
 * between shoulder and hip at the elbow's height, + clear of it, about 0 or less on the ribs.
 */
export function leftElbowGap(s: Stance, up: Vec3): number {
  const { left } = torsoAxes(s['shoulder.right'], s['shoulder.left'], up);
  const down = subtract(s['hip.left'], s['shoulder.left']);
  const out = subtract(s['elbow.left'], s['shoulder.left']);
  const share = Math.min(1, Math.max(0, dot(out, up) / dot(down, up)));
  return dot(addScaled(out, down, -share), left) / shoulderWidth(s);
}

/** Angle at the knees, the mean of both, degrees: 180 straight, 90 seated as a cellist should. */
export const kneeAngle = (s: Stance): number => (kneeOf(s, 'right') + kneeOf(s, 'left')) / 2;

function kneeOf(s: Stance, side: 'right' | 'left'): number {
  const knee = s[`knee.${side}`];
  return Math.acos(clamped(dot(normalize(subtract(s[`hip.${side}`], knee)), normalize(subtract(s[`ankle.${side}`], knee))))) * DEGREES;
}

/** From the head of a cello's lowest peg to the player's left ear, mm; beside it when it is well placed. */
export const pegToEar = (s: Stance, peg: Vec3): number => distance(s['ear.left'], peg);

/** How far a cello leans back, degrees from upright; `ahead` points to its scroll. */
export const celloLean = (ahead: Vec3, up: Vec3): number => Math.acos(clamped(dot(ahead, up) / length(ahead))) * DEGREES;

const clamped = (x: number): number => Math.min(1, Math.max(-1, x));
