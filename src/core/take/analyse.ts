import { bowsInHand } from '../body/bowsInHand';
import type { MarkedJoints } from '../body/fitArm';
import { endsByHand } from '../body/handAlongBow';
import { type Hold, holdsOf } from '../body/holds';
import { type ArmPlace, measureArm } from '../body/measureArm';
import { type HandPlace, measureHand } from '../body/measureHand';
import { type MarkedBacks, type MarkedLeftHands, measureStance, type StancePlace } from '../body/measureStance';
import type { BodySighting } from '../body/sighting';
import { GROWN, likelyStature } from '../body/stature';
import { strokesWithArm } from '../body/strokesWithArm';
import { strokesWithHand } from '../body/strokesWithHand';
import { supposedUp } from '../body/supposedUp';
import type { BowOnString } from '../bow/bowState';
import { withDoubtOfNeighbours, withoutStrayLines } from '../bow/strayLines';
import { type SoundEvents, soundEvents } from '../crossings/soundEvents';
import type { Judgement } from '../findings/finding';
import { judge } from '../findings/judge';
import type { Vec2 } from '../geometry/vec3';
import type { ImageSegment, Zenith } from '../geometry/zenith';
import type { Dimensions } from '../instrument/dimensions';
import { type Family, heldAtShoulder, sideSign } from '../instrument/family';
import type { MarksSolution } from '../instrument/solveMarks';
import { stringLevels, stringLines } from '../instrument/strings';
import { type StringChange, stringChanges } from '../levels/stringChanges';
import { bowContextOf, measureFrames, type TrackedFrame } from '../measures/measureFrames';
import type { FrameMeasures } from '../measures/measures';
import type { Rubric, Stage } from '../rubric/rubric';
import { bowStarts, bowTurns, soundOffset } from '../sound/alignSound';
import { hear, type Listening } from '../sound/hear';
import { loudnessOf, loudnessOffset } from '../sound/loudness';
import { soundEvidence, stringsTogether } from '../sound/soundEvidence';
import type { TakeSound } from '../sound/takeSound';
import { withSwing } from '../strokes/instrumentSwing';
import { segmentStrokes } from '../strokes/segment';
import type { Stroke } from '../strokes/stroke';
import { TASK_FACTS, type Task } from './task';

/** Everything measured in one take, before any judgement. */
export interface TakeMeasures {
  readonly family: Family;
  readonly dimensions: Dimensions;
  readonly solution: MarksSolution;
  /** Up in the camera's frame; absent where the film does not tell. */
  readonly vertical?: Zenith | undefined;
  /** A line of the picture that was marked as plumb. */
  readonly plumb?: ImageSegment | undefined;
  /** Up as it was supposed for the player's body where the film does not tell it. */
  readonly supposedUp?: Zenith | undefined;
  /** A left-handed set-up: poses, camera and sightings are those of the mirrored picture. */
  readonly mirrored?: boolean | undefined;
  readonly tracked: readonly TrackedFrame[];
  readonly frames: readonly FrameMeasures[];
  /** Where the bow lay in each frame, undefined where it was not seen. */
  readonly bows: readonly (BowOnString | undefined)[];
  /** What the networks saw of the player; absent where they were not asked or could not start. */
  readonly bodies?: readonly BodySighting[] | undefined;
  /** The bow arm in those frames; empty where it could not be measured. */
  readonly arms?: readonly ArmPlace[] | undefined;
  /** The bow hand in those frames in which it could be laid; empty where it could not be measured. */
  readonly hands?: readonly HandPlace[] | undefined;
  /** How the player stood or sat, span by span. */
  readonly stances?: readonly StancePlace[] | undefined;
  /** Rest position, playing position and holds without the left hand; absent where the player was not looked at or sits at a cello. */
  readonly holds?: readonly Hold[] | undefined;
  readonly strokes: readonly Stroke[];
  /** What was heard; absent where the film has no sound, or none of the instrument. */
  readonly sound?: TakeSound | undefined;
}

/**
 * Numbers of every frame, and strokes. With a sound, the turns of the bow first tell how late it is and which slight
 * dips in it are new bows; then the notes tell which string was played.
 */
export function measureTracked(input: Omit<TakeMeasures, 'frames' | 'strokes' | 'bows' | 'sound'>, listening?: Listening): TakeMeasures {
  const seen = measureWith(input, undefined);
  if (!listening) return seen;
  const changes = stringChangesOf(seen);
  const turns = bowTurns(seen.strokes);
  const first = hear(listening);
  const late =
    loudnessOffset(
      loudnessOf(listening.short),
      seen.frames.map((f) => ({ t: f.t, position: f.values.bow_position?.value })),
    ) ??
    soundOffset(first.notes, bowStarts(seen.strokes)) ??
    soundOffset(
      first.notes,
      changes.map((c) => c.t),
    );
  const sound: TakeSound = { heard: late ? hear(listening, { turns: turns.map((t) => t + late.value) }) : first, late };
  return { ...measureWith(input, sound), sound };
}

/** What the hand has put right tells how this hand holds, and with that finer mistakes show. */
const ROUNDS = 2;

/** The take without lines that are not the bow, by its ends and by the arm that would hold it, or with the doubt they deserve. */
function withoutStrays(seen: TakeMeasures, bodies: readonly BodySighting[]): TakeMeasures {
  const held = heldAtShoulder(seen.family) ? bowsInHand(bowContextOf(seen), seen.tracked, seen.bows, bodies) : undefined;
  const tracked = withDoubtOfNeighbours(withoutStrayLines(seen.tracked, held));
  return tracked.every((f, i) => f === seen.tracked[i]) ? seen : { ...seen, ...measureWith({ ...seen, tracked }, seen.sound) };
}

/** The take with the bow's ends where the hand tells them, where those seen were none or mistaken. */
function withEndsByHand(seen: TakeMeasures, bodies: readonly BodySighting[], placed: ReadonlySet<number> | undefined): TakeMeasures {
  if (!heldAtShoulder(seen.family)) return seen;
  const context = bowContextOf(seen);
  const scale = likelyStature(seen.dimensions).value / GROWN;
  let take = seen;
  for (let round = 0; round < ROUNDS; round++) {
    const tracked = endsByHand({ ...take, context, bodies, scale, placed });
    if (!tracked) break;
    take = { ...take, ...measureWith({ ...take, tracked }, take.sound) };
  }
  return take;
}

/** Changes of string in a take. */
export function stringChangesOf({ solution: { model }, family, frames }: Pick<TakeMeasures, 'solution' | 'family' | 'frames'>): StringChange[] {
  const names = stringLines(model, family).map((l) => l.name);
  return stringChanges(frames, names, stringLevels(model, family));
}

function measureWith(input: Omit<TakeMeasures, 'frames' | 'strokes' | 'bows' | 'sound'>, sound: TakeSound | undefined): TakeMeasures {
  const times = input.tracked.map((f) => f.t);
  const heard = sound && soundEvidence(sound, input.family, times);
  const together = sound && stringsTogether(sound, times);
  const { frames, bows } = measureFrames({ ...input, frames: input.tracked, up: input.vertical, heard, together });
  return { ...input, frames, bows, strokes: withSwing(segmentStrokes(frames), input.tracked, input.solution) };
}

/** What the teacher placed of the player and the bow in hand, by the frame's place in the film. */
export interface MarkedPlayer {
  readonly joints?: MarkedJoints;
  /** Points 0..20 of the bow hand. */
  readonly hand?: ReadonlyMap<number, ReadonlyMap<number, Vec2>>;
  /** Wrist and middle knuckle of the left hand, and points of the back's outline. */
  readonly leftHand?: MarkedLeftHands;
  readonly back?: MarkedBacks;
  /** Frames in which both ends of the bow were placed, neither guessed nor found. */
  readonly bow?: ReadonlySet<number>;
}

/** The take with the player measured too, from what the networks saw of body and bow hand. */
export function measureBodies(seen: TakeMeasures, bodies: readonly BodySighting[], marked: MarkedPlayer = {}): TakeMeasures {
  const take = withEndsByHand(withoutStrays(seen, bodies), bodies, marked.bow);
  const vertical = take.vertical ?? usualUp(take);
  const { frames, arms } = measureArm({ ...take, vertical, bodies, marked: marked.joints });
  const hand = measureHand({ ...take, bodies, arms, marked: marked.hand });
  const holds = heldAtShoulder(take.family)
    ? holdsOf({ camera: take.solution.camera, model: take.solution.model, tracked: take.tracked, bodies, stature: likelyStature(take.dimensions).value })
    : undefined;
  const stance = measureStance({ ...take, vertical, bodies, holds, marked: marked.joints, leftHand: marked.leftHand, back: marked.back });
  const all = take.frames.map((f, i) => ({ ...f, values: { ...f.values, ...frames[i]!, ...hand.frames[i]!, ...stance.frames[i]! } }));
  return {
    ...take,
    bodies,
    arms,
    supposedUp: take.vertical ? undefined : vertical,
    hands: hand.hands,
    stances: stance.stances,
    ...(holds ? { holds } : {}),
    frames: all,
    strokes: strokesWithHand(strokesWithArm(take.strokes, all, arms), all, new Set(marked.hand?.keys())),
  };
}

/** Up as it most likely is. How a cello is held tells less of it than how phones are set up. */
const usualUp = ({ family, tracked, solution: { camera }, plumb }: TakeMeasures): Zenith =>
  supposedUp(heldAtShoulder(family) ? tracked.flatMap(({ pose }) => pose ?? []) : [], plumb && { camera, plumb });

/** What the teacher said of a take beside its marks. */
export interface TakeOptions {
  /** How much later the sound comes than the picture, seconds, instead of the measured offset. */
  readonly shift?: number | undefined;
  readonly task?: Task | undefined;
}

/** What events are told from. */
export type EventsInput = Pick<TakeMeasures, 'family' | 'solution' | 'tracked' | 'frames' | 'strokes' | 'sound' | 'arms' | 'holds'>;

/** What sound and picture tell together; an exercise whose sound is of its own making tells nothing by it. */
export function eventsOf(take: EventsInput, { shift, task = 'ordinary' }: TakeOptions = {}): SoundEvents {
  return soundEvents(TASK_FACTS[task].soundLeftOut ? { ...take, sound: undefined } : take, shift);
}

/** Findings of a take under a rubric. */
export function judgeTake(take: TakeMeasures, rubric: Rubric, stage: Stage, options: TakeOptions = {}): Judgement {
  return judge({
    events: eventsOf(take, options),
    frames: take.frames,
    strokes: take.strokes,
    rubric,
    stage,
    family: take.family,
    motion: { poses: take.tracked.map((f) => f.pose), side: sideSign(take.family) },
    ...(options.task ? { task: options.task } : {}),
  });
}
