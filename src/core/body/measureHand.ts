import { bowInSpace } from '../bow/bowInSpace';
import type { BowOnString } from '../bow/bowState';
import { type Camera, project } from '../geometry/camera';
import { add, addScaled, DEGREES, distance, dot, normalize, scale, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import type { Dimensions } from '../instrument/dimensions';
import { type Family, sideSign } from '../instrument/family';
import type { MarksSolution } from '../instrument/solveMarks';
import { bowContextOf, type TrackedFrame } from '../measures/measureFrames';
import type { Measured, Quantity } from '../measures/measures';
import { mean } from '../statistics';
import { FINGERS_HIDDEN, FINGERS_OVERLAP, fitHand, type HandEvidence, type HandFit, isPlaced, PLACING, STICK_OVER_HAIR } from './fitHand';
import { FINGERS, fingerBends, handOpening, littleToStick, middleCrossing, thumbBends, thumbSlant, tipGap, wristBend } from './hand';
import { between } from './lookedAt';
import type { ArmPlace } from './measureArm';
import type { BodySighting } from './sighting';
import { GROWN, likelyStature } from './stature';

export interface HandMeasuring {
  readonly family: Family;
  readonly dimensions: Dimensions;
  readonly solution: MarksSolution;
  readonly tracked: readonly TrackedFrame[];
  readonly bows: readonly (BowOnString | undefined)[];
  readonly bodies: readonly BodySighting[];
  readonly arms: readonly ArmPlace[];
  /** Points of the hand the teacher placed, by the frame's place in the film. */
  readonly marked?: ReadonlyMap<number, ReadonlyMap<number, Vec2>> | undefined;
}

/** The bow hand in one of the frames that were looked at. */
export interface HandPlace {
  /** Seconds. */
  readonly t: number;
  /** The 21 points from the frog end of the hair, mm: along the hair to the tip, toward the player, out of the instrument's top. */
  readonly points: readonly Vec3[];
}

export interface HandMeasures {
  readonly frames: readonly Partial<Record<Quantity, Measured>>[];
  readonly hands: readonly HandPlace[];
  readonly fit: HandFit | undefined;
}

const FULL_HAIR = 650;
/** A joint whose uncertainty is more than this was found by what hands usually do, not by what was seen: absent (degrees, ours: about half the usual spread). */
const LIMIT = { finger: 16, little: 26, thumb: 17, wrist: 16 } as const;
/** What bone lengths, axes of joints and the network's manner add, degrees (ours, from two renderers). */
const MODEL = { finger: 6, little: 14, thumb: 5, flexion: 9, deviation: 9 } as const;
/** A placed thumb errs by so much of what the fit allows it (ours: on five close-ups of two renderers, joints marked 2.5 px off over and over, root mean square 1.1 u). */
const PLACED_THUMB = 0.7;
/** So do the three fingers beside the little one, placed or seen (ours: on eight close-ups of two renderers index, middle and ring finger were off by 0.6, 0.4 and 0.4 u, root mean square, where all of it was counted). */
const THREE_FINGERS = 0.7;
/**
 * Where the little finger is told otherwise than in the frame in which it was placed, it may have been seen wrongly by half
 * of that: the bent one of a good hold changes by some 25 degrees from frog to tip, a collapsed one not at all (ours, from the
 * holds of two renderers; a collapsed one of -27 degrees was told as 50 at the frog and rightly where it was placed).
 */
const LITTLE_CHANGES = 0.5;
/** Below this width (px) a palm shows its fingers less exactly, in proportion (ours). */
const SMALL_PALM = 60;
/** No finger bends beyond these, degrees (clinical ranges of motion, from memory, with what the fit errs added): a hand that would was not seen as it is. */
export const REACH = { mcp: [-60, 110], pip: [-30, 125], dip: [-40, 105] } as const;
/** Points seen lie this near to those of the fitted hand, shares of the palm (root mean square; ours): beyond the first the doubt grows in proportion, beyond the second something else was taken for the hand. */
const MISFIT = { fine: 0.15, worst: 0.6 } as const;
/** Seconds. */
const LONG_TAKE = 4;
const HAND_SPACING = 0.28;
const RATIO = { u: 0.15, limit: 0.8 } as const;

interface Tellable {
  readonly value: (points: readonly Vec3[]) => number;
  readonly model: number;
  readonly limit: number;
  /** Share of the fitted hand's own doubt that shows as error; all of it where left out. */
  readonly share?: number;
  /** Doubt for each degree by which it is told otherwise than in the frame in which it was placed. */
  readonly changes?: number;
}

/** Measures the fingers of the bow hand from what the networks and the teacher saw and from the bow. Pure. */
export function measureHand(input: HandMeasuring): HandMeasures {
  const { tracked, bodies, solution, family, dimensions } = input;
  const nothing = { frames: tracked.map(() => ({})), hands: [], fit: undefined };
  if (sideSign(family) !== 1) return nothing;
  const context = bowContextOf(input);
  const place = new Map(tracked.map((f, i) => [f.index, i]));
  const bowScale = Math.min(1, dimensions.hair / FULL_HAIR);
  const evidence = thinned(bodies, input.marked).flatMap((body): (HandEvidence & { frame: number })[] => {
    const i = place.get(body.frame);
    const pose = i === undefined ? undefined : tracked[i]!.pose;
    const bow = i === undefined ? undefined : input.bows[i];
    if (!pose || !bow) return [];
    return [{ ...bowInSpace(context, pose, bow), frame: body.frame, t: body.t, seen: body.bowHand, held: body.heldBow, marked: input.marked?.get(body.frame) }];
  });
  const laid = layHand(evidence, solution.camera, likelyStature(dimensions).value / GROWN, bowScale);
  if (!laid) return nothing;
  const { fit, evidence: believed } = laid;
  // Where the teacher's own marks would need such a hand, bow or camera are not where they seem, in the other frames too.
  if (evidence.some(({ marked }, k) => marked && !isWithinReach(fit.frames[k]!))) return nothing;

  const placed = placedFingers(evidence);
  const coarse = Math.max(1, SMALL_PALM / fit.palm);
  const ratio = (value: (p: readonly Vec3[]) => number): Tellable => ({ value, model: RATIO.u, limit: RATIO.limit });
  const ofFingers = (e: HandEvidence): Partial<Record<Quantity, Tellable>> => {
    const axis = (at: number): Vec3 => add(addScaled(e.frog, e.axes[0], at), scale(e.axes[2], STICK_OVER_HAIR * bowScale));
    const stick = { a: axis(0), b: axis(100) };
    return {
      ...Object.fromEntries(
        FINGERS.filter((finger) => finger !== 'little' || placed.little || e.held).flatMap((finger) =>
          (['mcp', 'pip', 'dip'] as const).map((joint) => [
            `${finger}_${joint}_deg`,
            {
              value: (p: readonly Vec3[]) => fingerBends(p, finger, 1)[joint],
              model: finger === 'little' ? MODEL.little * coarse : MODEL.finger * coarse * overlap(e),
              limit: finger === 'little' ? LIMIT.little : LIMIT.finger,
              ...(finger === 'little' ? { changes: LITTLE_CHANGES } : { share: THREE_FINGERS }),
            },
          ]),
        ),
      ),
      ...(placed.little ? { little_to_stick: ratio((p) => littleToStick(p, stick)), gap_ring_little: ratio((p) => tipGap(p, 'ring', 'little')) } : {}),
      ...(placed.middle ? { middle_crossing: ratio((p) => middleCrossing(p, stick)) } : {}),
      ...(placed.middle && placed.index ? { gap_index_middle: ratio((p) => tipGap(p, 'index', 'middle')) } : {}),
      ...(placed.thumb ? { hand_opening: ratio(handOpening) } : {}),
    };
  };
  const ofThumbAndWrist = (e: HandEvidence): Partial<Record<Quantity, Tellable>> => {
    const arm = armAt(input.arms, e.t);
    return {
      ...(placed.thumb
        ? {
            thumb_slant_deg: { value: (p: readonly Vec3[]) => thumbSlant(p, e.axes), model: MODEL.thumb, limit: LIMIT.thumb, share: PLACED_THUMB },
            thumb_ip_deg: { value: (p: readonly Vec3[]) => thumbBends(p, 1).ip, model: MODEL.thumb, limit: LIMIT.thumb, share: PLACED_THUMB },
            thumb_mcp_deg: { value: (p: readonly Vec3[]) => thumbBends(p, 1).mcp, model: MODEL.thumb, limit: LIMIT.thumb, share: PLACED_THUMB },
          }
        : {}),
      ...(arm
        ? {
            wrist_flexion_deg: {
              value: (p: readonly Vec3[]) => wristBend(p, subtract(p[0]!, arm.elbow), 1).flexion,
              model: Math.hypot(MODEL.flexion, forearmDoubt(arm)),
              limit: LIMIT.wrist,
            },
            wrist_deviation_deg: {
              value: (p: readonly Vec3[]) => wristBend(p, subtract(p[0]!, arm.elbow), 1).deviation,
              model: Math.hypot(MODEL.deviation, forearmDoubt(arm)),
              limit: LIMIT.wrist,
            },
          }
        : {}),
    };
  };
  const tellable = (e: HandEvidence): Partial<Record<Quantity, Tellable>> => ({ ...(isEndOn(e) ? {} : ofFingers(e)), ...ofThumbAndWrist(e) });
  const littlePlaced = evidence.findIndex((e) => isPlaced([e], PLACING.little));
  const told = evidence.map((_, k) => {
    const points = fit.frames[k]!;
    const misfit = leastMisfit(solution.camera, points, believed[k]!, fit.palm);
    if (isMistaken(points, believed[k]!, misfit)) return {};
    const loose = Math.max(1, misfit / MISFIT.fine);
    const entries = Object.entries(tellable(believed[k]!)).flatMap(([name, { value, model, limit, share = 1, changes = 0 }]) => {
      const v = value(points);
      const otherwise = littlePlaced < 0 ? 0 : changes * (v - value(fit.frames[littlePlaced]!));
      const u = loose * Math.hypot(share * fit.sigmaOf(k, value), model, otherwise);
      return Number.isFinite(v) && u <= limit ? [[name, { value: v, u }] as const] : [];
    });
    return Object.fromEntries(entries) as Partial<Record<Quantity, Measured>>;
  });
  const times = evidence.map((e) => e.t);
  const hands = evidence.map((e, k): HandPlace => {
    const inBow = (p: Vec3): Vec3 => e.axes.map((axis) => dot(subtract(p, e.frog), axis)) as unknown as Vec3;
    return { t: e.t, points: fit.frames[k]!.map(inBow) };
  });
  return { frames: tracked.map((f) => betweenTold(times, told, f.t)), hands, fit };
}

/**
 * The hand laid on all frames. Where the teacher placed it in one of them, what a network took for it elsewhere and lies
 * far from it, or could not bend so, is left out, and the hand laid once more.
 */
function layHand<E extends HandEvidence>(
  evidence: readonly E[],
  camera: Camera,
  size: number,
  bowScale: number,
): { readonly fit: HandFit; readonly evidence: readonly E[] } | undefined {
  const fit = fitHand({ camera, frames: evidence, size, bowScale });
  if (!fit || !evidence.some((e) => e.marked)) return fit && { fit, evidence };
  let mistaken = false;
  const without = evidence.map((e, k) => {
    const keeps = (points: readonly Vec2[] | undefined) => points !== undefined && !isMistaken(fit.frames[k]!, e, misfitOf(camera, fit.frames[k]!, e, points, fit.palm));
    const [seen, held] = [keeps(e.seen) ? e.seen : undefined, keeps(placesOf(e.held)) ? e.held : undefined];
    mistaken ||= seen !== e.seen || held !== e.held;
    return { ...e, seen, held };
  });
  if (!mistaken) return { fit, evidence };
  const again = fitHand({ camera, frames: without, size, bowScale });
  return again && { fit: again, evidence: without };
}

/** Whether something else was taken for the hand, or followed on; what the teacher placed is the hand. */
const isMistaken = (points: readonly Vec3[], { marked }: HandEvidence, misfit: number): boolean => misfit > MISFIT.worst || (!marked && !isWithinReach(points));

const placesOf = (held: HandEvidence['held']): readonly Vec2[] | undefined => held?.map((joint) => joint.point);

/** How far the network that agrees best with the fitted hand is from it; 0 where none saw it. */
function leastMisfit(camera: Camera, points: readonly Vec3[], e: HandEvidence, palm: number): number {
  const misfits = [e.seen, placesOf(e.held)].flatMap((seen) => (seen ? [misfitOf(camera, points, e, seen, palm)] : []));
  return misfits.length > 0 ? Math.min(...misfits) : 0;
}

/** How far the points a network saw lie from where the fitted hand has them (root mean square), in palms of so many px; 0 where the teacher placed the hand. */
function misfitOf(camera: Camera, points: readonly Vec3[], { marked }: HandEvidence, seen: readonly Vec2[], palm: number): number {
  if (marked) return 0;
  const squares = points.flatMap((p, i) => {
    const there = project(camera, p);
    return there ? [((there[0] - seen[i]![0]) / palm) ** 2 + ((there[1] - seen[i]![1]) / palm) ** 2] : [];
  });
  return Math.sqrt(mean(squares));
}

/** Whether a hand can be so; of the little finger, which networks lose, nothing is asked. */
function isWithinReach(points: readonly Vec3[]): boolean {
  return FINGERS.filter((finger) => finger !== 'little').every((finger) => {
    const bends = fingerBends(points, finger, 1);
    return (['mcp', 'pip', 'dip'] as const).every((joint) => bends[joint] >= REACH[joint][0] && bends[joint] <= REACH[joint][1]);
  });
}

/** Angle between the bow and the line of sight to its frog, degrees 0 .. 90. */
const sightAngle = ({ frog, axes }: HandEvidence): number => Math.acos(Math.min(1, Math.abs(dot(axes[0], normalize(frog))))) * DEGREES;

/** Whether the bow points so nearly along the line of sight that fingers hide behind one another. */
const isEndOn = (e: HandEvidence): boolean => sightAngle(e) < FINGERS_HIDDEN;

/** By how much more fingers are in doubt where one is half behind the next. */
const overlap = (e: HandEvidence): number => 1 + Math.max(0, (FINGERS_OVERLAP - sightAngle(e)) / (FINGERS_OVERLAP - FINGERS_HIDDEN));

/** In a long take every second looked-at frame will do for the hand, which changes slowly; marked ones stay. */
function thinned(bodies: readonly BodySighting[], marked: HandMeasuring['marked']): BodySighting[] {
  if (bodies.length === 0 || bodies.at(-1)!.t - bodies[0]!.t < LONG_TAKE) return [...bodies];
  let next = Number.NEGATIVE_INFINITY;
  return bodies.filter(({ t, frame }) => {
    if (t < next && !marked?.has(frame)) return false;
    next = Math.max(next, t + HAND_SPACING);
    return true;
  });
}

/**
 * The thumb is told only where the teacher placed it in a frame, and the little finger only there or where our own network
 * saw it: general networks take them for one another, and a straight, a round and a collapsed little finger look alike to
 * them (arm and hand recipe); with our own a thumb that was not placed came out 4 to 42 degrees off on eight close-ups of two
 * renderers, 13 in the median: half-way to what is usual, so that straight and bent cannot be told apart. So are the places of
 * the fingertips about the stick, which the networks put where they usually are (measured on ten close-ups: off by
 * half a finger's bone, and by as much as the faults there differ).
 */
function placedFingers(evidence: readonly HandEvidence[]): { thumb: boolean; index: boolean; middle: boolean; little: boolean } {
  const has = (points: readonly number[]) => isPlaced(evidence, points);
  return { thumb: has(PLACING.thumb), index: has(PLACING.index.slice(1)), middle: has(PLACING.middle), little: has(PLACING.little) };
}

/** How far the forearm's direction may be off, degrees. */
const forearmDoubt = (arm: ArmPlace): number => Math.atan2(arm.sigma.elbow, distance(arm.elbow, arm.wrist)) * DEGREES;

/** Values at a time between two looked-at frames; only what both tell. */
function betweenTold(times: readonly number[], told: readonly Partial<Record<Quantity, Measured>>[], t: number): Partial<Record<Quantity, Measured>> {
  const near = between(times, t);
  if (!near) return {};
  const { a, b, share } = near;
  const out: Partial<Record<Quantity, Measured>> = {};
  for (const name of Object.keys(told[a]!) as Quantity[]) {
    const [p, q] = [told[a]![name], told[b]![name]];
    if (p && q) out[name] = { value: p.value + (q.value - p.value) * share, u: p.u + (q.u - p.u) * share };
  }
  return out;
}

/** The arm in the looked-at frame nearest to a time. */
function armAt(arms: readonly ArmPlace[], t: number): ArmPlace | undefined {
  const near = between(
    arms.map((a) => a.t),
    t,
  );
  return near && arms[near.share < 0.5 ? near.a : near.b];
}
