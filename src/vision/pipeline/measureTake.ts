import { joinAlternate } from '../../core/body/alternateLooks';
import { HAND_POINTS } from '../../core/body/hand';
import { BACK_POINTS, type BackPoint } from '../../core/body/lumbarArch';
import { BODY_JOINTS, type BodyJoint, type BodySighting, mirrorBody, otherSide } from '../../core/body/sighting';
import { withoutBystanders } from '../../core/body/whoPlays';
import type { Marks } from '../../core/formats/marks';
import { STEADIED_LOG_FOCAL_SIGMA } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import { withFocalDoubt } from '../../core/geometry/zenith';
import type { Family } from '../../core/instrument/family';
import { logFocalSigma, solvePose } from '../../core/instrument/solveMarks';
import { bowContextOf, type TrackedFrame } from '../../core/measures/measureFrames';
import { nearestIndex } from '../../core/nearestIndex';
import type { Listening } from '../../core/sound/hear';
import { type MarkedPlayer, measureBodies, measureTracked, stringChangesOf, type TakeMeasures } from '../../core/take/analyse';
import { isLeftHanded, mirrorMarks } from '../../core/take/handedness';
import { type MarkedFrame, markedFrames, placesInstrument, solutionFromMarks } from '../../core/take/marksToSolution';
import { bowHandPlaces, mirrorBowHand } from '../body/bowHand';
import { neckHandPlaces } from '../body/neckHand';
import { mirrorSquare } from '../body/partFinder';
import { framesToSee, type HandPlaces } from '../body/seeBody';
import type { OpenBowFollower } from '../bow/bowFollower';
import { type FrameSource, keptFrames } from '../film/frame';
import { mirrored } from '../film/mirror';
import { FilmError } from '../film/openFilm';
import { BridgeWatch } from './bridgeWatch';
import { findVertical, plumbOf } from './findVertical';
import { type Anchor, type FollowOptions, followTake } from './followTake';
import { placeAlike } from './placeAlike';
import { refineSolution } from './refineSolution';

/** Where and when the player is looked at. */
export interface Looking {
  /** Where the hands must be in a frame. */
  readonly handsAt: (frame: number) => HandPlaces;
  /** Frames in which joints were placed by hand. */
  readonly marked: readonly number[];
  /** When the bow changes string, seconds. */
  readonly changes: readonly number[];
}

/** Runs the networks over a film. */
export type LookAtPlayer = (looking: Looking, onProgress: (done: number, total: number) => void) => Promise<readonly BodySighting[]>;

export interface MeasureOptions {
  readonly signal?: AbortSignal;
  readonly onProgress?: (done: number, total: number) => void;
  /** An earlier measuring of the same film whose marks were only added to: what they do not affect is kept. */
  readonly previous?: { readonly measures: TakeMeasures; readonly marks: Marks } | undefined;
  /** Where the bow is followed; on this thread if not given. */
  readonly openBow?: OpenBowFollower;
  /** Listens to the film's sound for an instrument of a family; without it, or without sound, strings are told by the picture alone. */
  readonly listen?: (family: Family) => Promise<Listening | undefined>;
  /** Looks afresh at bow and instrument in some frames (`mirror`: in the mirrored picture); without it what was mistaken or lost stays so. */
  readonly lookAfresh?: (mirror: boolean) => NonNullable<FollowOptions['lookAfresh']>;
  /** Looks at the player, after the bow is known; without it body and hand are not measured. */
  readonly lookAtPlayer?: LookAtPlayer;
}

/**
 * From film and marks to measures: follows instrument and bow through every frame, then estimates. With an
 * earlier result only the spans that new marks affect are followed again.
 * @throws FilmError, MarksError, MarksFileError in plain words; the signal's reason when cancelled.
 */
export async function measureTake(source: FrameSource, marks: Marks, options: MeasureOptions = {}): Promise<TakeMeasures> {
  const looks = options.lookAtPlayer && !options.previous?.measures.bodies ? framesToSee(source.times).length : 0;
  // One count for both passes: pictures followed, then pictures in which the player is looked at.
  const following: MeasureOptions = { ...options, onProgress: (done, total) => options.onProgress?.(done, total + looks) };
  const looking: MeasureOptions = { ...options, onProgress: (done, total) => options.onProgress?.(source.times.length + done, source.times.length + total) };
  const playing = ofPlaying(marks);
  const before = options.previous && { ...options.previous, marks: ofPlaying(options.previous.marks) };
  // Points of the player leave instrument and bow as they were followed.
  if (before && same(before.marks, playing) && !same(options.previous!.marks, marks))
    return withPlayer(before.measures, before.measures.mirrored ? mirrorMarks(marks) : marks, looking);
  if (!isLeftHanded(marks)) return withPlayer(await measureRightHanded(source, playing, { ...following, previous: before }, false), marks, looking);
  const turned = mirrorMarks(marks);
  const take = await measureRightHanded(mirrored(source), mirrorMarks(playing), { ...following, previous: before && { ...before, marks: mirrorMarks(before.marks) } }, true);
  return withPlayer({ ...take, mirrored: true }, turned, looking);
}

const same = (a: Marks, b: Marks) => JSON.stringify(a) === JSON.stringify(b);

/** The marks of instrument and bow alone, without frames in which only the player is marked. */
function ofPlaying(marks: Marks): Marks {
  const ofPlayer = (name: string) => name.startsWith('body.') || name.startsWith('hand.');
  const frames = marks.frames.flatMap((frame) => {
    const points = Object.fromEntries(Object.entries(frame.points).filter(([name]) => !ofPlayer(name)));
    return Object.keys(points).length > 0 ? [{ ...frame, points }] : [];
  });
  return { ...marks, frames };
}

/** The take with the player looked at and measured; networks see the picture as it is, not its mirror image. */
async function withPlayer(take: TakeMeasures, marks: Marks, options: MeasureOptions): Promise<TakeMeasures> {
  const before = options.previous?.measures.bodies;
  const marked = markedPlayer(marks, take);
  const markedFrames = [...marked.joints.keys(), ...marked.hand.keys(), ...marked.back.keys()];
  const looked = new Set(before?.map((b) => b.frame));
  // Marks added for the bow leave the player as seen before; joints placed in a frame not looked at yet do not.
  if (before && before.length > 0 && markedFrames.every((f) => looked.has(f))) return measureBodies(take, before, marked);
  if (!options.lookAtPlayer) return take;
  const { width } = take.solution.camera;
  const [bowHands, neckHands] = [bowHandPlaces(take), neckHandPlaces(take)];
  const handsAt = (frame: number): HandPlaces => {
    const [bow, neck] = [bowHands.get(frame), neckHands.get(frame)];
    return take.mirrored ? { bow: bow && mirrorBowHand(bow, width), neck: neck && mirrorSquare(neck, width) } : { bow, neck };
  };
  const changes = stringChangesOf(take).map((c) => c.t);
  const seen = await options.lookAtPlayer({ handsAt, marked: markedFrames, changes }, (done, total) => options.onProgress?.(done, total));
  const bodies = joinAlternate(withoutBystanders(seen));
  return measureBodies(take, take.mirrored ? bodies.map((b) => mirrorBody(b, width)) : bodies, marked);
}

/** What the teacher placed of the player and the bow in hand, by frame. Those of a mirrored picture are on the other side. */
function markedPlayer(marks: Marks, take: TakeMeasures): Required<MarkedPlayer> {
  const times = Float64Array.from(take.frames, (f) => f.t);
  const joints = new Map<number, Readonly<Partial<Record<BodyJoint, Vec2>>>>();
  const hand = new Map<number, ReadonlyMap<number, Vec2>>();
  const leftHand = new Map<number, { wrist: Vec2; knuckle: Vec2 }>();
  const back = new Map<number, Record<BackPoint, Vec2>>();
  const bow = new Set<number>();
  for (const { t, points, guessed = [], found = [] } of marks.frames) {
    const { frame } = take.frames[nearestIndex(times, t)]!;
    const named = BODY_JOINTS.flatMap((joint) => {
      const p = points[`body.${take.mirrored ? otherSide(joint) : joint}`];
      return p ? [[joint, p] as const] : [];
    });
    if ((['bow.frog', 'bow.tip'] as const).every((end) => points[end] && !guessed.includes(end) && !found.includes(end))) bow.add(frame);
    if (named.length > 0) joints.set(frame, Object.fromEntries(named));
    const fingers = Array.from({ length: HAND_POINTS }, (_, i) => i).flatMap((i) => {
      const p = points[`hand.bow.${i}`];
      return p ? [[i, p] as const] : [];
    });
    if (fingers.length > 0) hand.set(frame, new Map(fingers));
    const [wrist, knuckle] = [points['hand.left.0'] ?? joints.get(frame)?.['wrist.left'], points['hand.left.9']];
    if (wrist && knuckle) leftHand.set(frame, { wrist, knuckle });
    const [upper, small, seat] = BACK_POINTS.map((p) => points[`body.back.${p}`]);
    if (upper && small && seat) back.set(frame, { upper, small, seat });
  }
  return { joints, hand, leftHand, back, bow };
}

async function measureRightHanded(source: FrameSource, marks: Marks, options: MeasureOptions, mirror: boolean): Promise<TakeMeasures> {
  if (marks.video.width !== source.width || marks.video.height !== source.height) {
    throw new FilmError(
      `These marks belong to a picture of ${marks.video.width} x ${marks.video.height}, this film has ${source.width} x ${source.height}. Use the marks of this film.`,
    );
  }
  const duration = source.times[source.times.length - 1]!;
  const late = marks.frames.find((f) => f.t > duration + 0.5);
  if (late) throw new FilmError(`A marked frame lies at ${late.t} s, but the film ends at ${duration.toFixed(1)} s. Use the marks of this film.`);

  const added = options.previous ? addedFrames(options.previous.marks, marks) : undefined;
  if (options.previous && added) return mend(source, marks, options.previous.measures, added, options);

  const { solution: first, supposed, dimensions, frames, agreeing } = solutionFromMarks(marks);
  const frameAt = keptFrames(source);
  const solution = await refineSolution(source, supposed, frameAt, first, dimensions, [...frames, ...agreeing]);
  const context = bowContextOf({ family: marks.instrument.family, dimensions, solution });
  const anchorsOf = (list: readonly MarkedFrame[], poses: readonly Pose[]) =>
    list.map((frame, i): Anchor => ({ index: nearestIndex(source.times, frame.t), pose: poses[i]!, bow: frame }));
  const anchors = anchorsOf(frames, solution.poses);
  const beside = anchorsOf(agreeing, solution.poses.slice(frames.length));
  const [anchor, ...others] = anchors;
  const alike = anchor && others.length === 0 && beside.length > 0 ? await placeAlike(solution, { anchor, beside }, !frames[0]!.found, frameAt) : undefined;
  // Its few pictures are decoded while the others are followed.
  const seeking = findVertical(source.times, frameAt, marks, solution.camera);
  seeking.catch(() => undefined);
  const bridge = new BridgeWatch(solution, dimensions, source.times);
  const followed = await followTake(source, solution, context, alike ? [alike.anchor] : anchors, {
    ...followOptions(options),
    beside: alike?.beside ?? beside,
    frameAt,
    lookAfresh: options.lookAfresh?.(mirror),
    onFrame: (_, done, total) => options.onProgress?.(done, total),
    onPosed: (frame, pose) => bridge.see(frame, pose),
  });
  const seated = bridge.seat(followed);
  const zenith = await seeking;
  const vertical = zenith && withFocalDoubt(zenith, Math.hypot(logFocalSigma(solution), STEADIED_LOG_FOCAL_SIGMA));
  // Frames in which only the bow is marked lean on the instrument followed there.
  const placing = new Set(frames.map((f) => f.t));
  const bowOnly = marks.frames.filter((f) => !placing.has(f.t));
  // Those are followed again, and the sound is listened to then.
  const listening = bowOnly.length > 0 ? undefined : await options.listen?.(marks.instrument.family);
  const measures = measureTracked({ family: marks.instrument.family, dimensions, vertical, plumb: plumbOf(marks), ...seated }, listening);
  return bowOnly.length > 0 ? mend(source, marks, measures, bowOnly, options) : measures;
}

const followOptions = ({ signal, openBow }: MeasureOptions) => ({ ...(signal ? { signal } : {}), ...(openBow ? { openBow } : {}) });

/** Frames that are in `next` but not in `before`, when nothing else changed; else undefined. */
function addedFrames(before: Marks, next: Marks): Marks['frames'] | undefined {
  const basis = ({ instrument, video }: Marks) => JSON.stringify([instrument, video]);
  if (basis(before) !== basis(next)) return undefined;
  const kept = new Set(next.frames.map((f) => JSON.stringify(f)));
  if (!before.frames.every((f) => kept.has(JSON.stringify(f)))) return undefined;
  const known = new Set(before.frames.map((f) => JSON.stringify(f)));
  const added = next.frames.filter((f) => !known.has(JSON.stringify(f)));
  return added.length > 0 ? added : undefined;
}

/** Follows again only from the added marks to half way to their neighbours. */
async function mend(source: FrameSource, marks: Marks, before: TakeMeasures, added: Marks['frames'], options: MeasureOptions): Promise<TakeMeasures> {
  const { solution } = before;
  const context = bowContextOf(before);
  const nearPose = (index: number) => {
    const found = before.tracked
      .filter((f) => f.pose)
      .reduce<TrackedFrame | undefined>((best, f) => (!best || Math.abs(f.index - index) < Math.abs(best.index - index) ? f : best), undefined);
    return found?.pose ?? solution.poses[0]!;
  };
  const anchorOf = (frame: MarkedFrame): Anchor => {
    const index = nearestIndex(source.times, frame.t);
    const near = nearPose(index);
    const pose = placesInstrument(frame) ? (solvePose(solution.camera, solution.model, frame.sightings)?.pose ?? near) : near;
    return { index, pose, bow: frame };
  };
  const all = markedFrames(marks)
    .map(anchorOf)
    .sort((a, b) => a.index - b.index);
  const fresh = new Set(markedFrames({ ...marks, frames: added }).map((f) => nearestIndex(source.times, f.t)));
  let tracked = [...before.tracked];
  const spans = all.flatMap((anchor, i) => {
    if (!fresh.has(anchor.index)) return [];
    const from = i === 0 ? 0 : Math.ceil((all[i - 1]!.index + anchor.index) / 2);
    const to = i === all.length - 1 ? source.times.length - 1 : Math.ceil((anchor.index + all[i + 1]!.index) / 2) - 1;
    return [{ anchor, from, to }];
  });
  const total = spans.reduce((n, s) => n + s.to - s.from + 1, 0);
  let done = 0;
  for (const span of spans) {
    const followed = await followTake(source, solution, context, [span.anchor], {
      span,
      ...followOptions(options),
      onFrame: () => options.onProgress?.(++done, total),
    });
    const byIndex = new Map(followed.map((f) => [f.index, f]));
    tracked = tracked.map((f) => byIndex.get(f.index) ?? f);
  }
  return measureTracked(
    { family: before.family, dimensions: before.dimensions, solution, vertical: before.vertical, plumb: before.plumb, tracked },
    await options.listen?.(before.family),
  );
}
