import { bowInSpace } from '../bow/bowInSpace';
import type { BowOnString } from '../bow/bowState';
import type { BowContext } from '../bow/residuals';
import { insidePicture, project } from '../geometry/camera';
import type { Vec2 } from '../geometry/vec3';
import type { TrackedFrame } from '../measures/measureFrames';
import type { FrameMeasures, Measured } from '../measures/measures';
import { median, SIGMA_OF_MEDIAN } from '../statistics';
import { type PositionByHand, positionByHand } from './positionByHand';
import { type BodySighting, LEAST_SEEN, seenTorso } from './sighting';

/** A take whose bow may have been taken for longer or shorter than it is. */
export interface HandAlongBow {
  readonly context: BowContext;
  readonly tracked: readonly TrackedFrame[];
  readonly frames: readonly FrameMeasures[];
  readonly bows: readonly (BowOnString | undefined)[];
  readonly bodies: readonly BodySighting[];
  /** The player's height over a grown one's. */
  readonly scale: number;
  /** Frames in which both ends were marked by hand: a teacher's marks are not doubted, nor what the look nearest to them would say against them. */
  readonly placed?: ReadonlySet<number> | undefined;
}

/** A wrist further from the bow's line than this belongs to an arm the network has lost (share of the torso, ours). */
const ON_LINE = 0.15;
/** Where the ends have the frog this near to the picture's edge (share of the torso) or beyond it, a network may only put the hand back into the picture: by so much of the hair at most (ours). */
const NEAR_EDGE = 0.2;
const PUT_BACK = 0.3;
/** Hands are off alike for longer than a look, so that several looks tell little more than one (ours). */
const LASTING = 1.5;
/** Half of the looks lie so close together (share of the hair) where the ends are mostly right: they tell how this hand holds, and how steadily it is seen. */
const AGREE = 0.16;
const LEAST_LOOKS = 6;
/** No hand holds so far from where hands do (in sigmas of where that is): then the ends are mistaken all along, and alike. */
const MOST_HABIT = 3;
/** A hand is seen no more steadily than this (share of the hair). */
const LEAST_SCATTER = 0.025;
/** Ends are mistaken so many scatters from the hand on, and so much of the hair, in two looks running (ours, from 22 clips of two renderers). */
const CONTRADICTS = { scatters: 3.5, share: 0.1 } as const;
/** A hand that is seen so far beyond either end of the hair (share of it, ours) is not where the network puts it: folded before the body, wrists were put 0.2 to 0.5 of a bow off. */
const BEYOND_BOW = 0.15;
/** A position less sure than this is better told by the hand (share of the hair). */
const UNSURE = 0.06;

/** What one look at the player says of the place along the bow. */
interface Look {
  /** Index into the frames. */
  readonly i: number;
  readonly hand: PositionByHand;
  readonly position: Measured | undefined;
  /** Whether the hand may have left the picture, by the ends. */
  readonly gone: boolean;
  /** The position by the hand itself where one was found. */
  readonly shown: number | undefined;
}

/**
 * The frames with the bow's ends taken from the hand that holds it where those seen contradict it or too little was
 * seen: a far end out of the picture, or a mistaken one. Undefined where there is nothing to put right.
 */
export function endsByHand({ context, tracked, frames, bows, bodies, scale, placed }: HandAlongBow): TrackedFrame[] | undefined {
  const place = new Map(tracked.map((f, i) => [f.index, i]));
  const looks = bodies.flatMap((body): Look[] => {
    const i = place.get(body.frame);
    const pose = i === undefined ? undefined : tracked[i]!.pose;
    const bow = i === undefined ? undefined : bows[i];
    if (i === undefined || !pose || !bow || !body.joints) return [];
    const torso = seenTorso(body.joints);
    const byWrist = (wrist: Vec2) => positionByHand(context, pose, bow, wrist, torso, scale);
    const hand = byWrist(body.joints['wrist.right'].point);
    // In a close-up the network only guesses where the rest of the player is.
    const guessed = (['wrist.right', 'shoulder.right', 'shoulder.left'] as const).some((j) => body.joints![j].seen < LEAST_SEEN);
    if (!hand || guessed || hand.aside > ON_LINE * torso || !onBow(hand.position)) return [];
    const frog = project(context.camera, bowInSpace(context, pose, bow).frog);
    const gone = !frog || !insidePicture(context.camera, [frog[0], frog[1]], NEAR_EDGE * torso);
    const shown = body.bowHand && byWrist(body.bowHand[0]!)?.position;
    return [{ i, hand, gone, position: frames[i]!.values.bow_position, shown: shown !== undefined && onBow(shown) ? shown : undefined }];
  });
  if (looks.length < LEAST_LOOKS) return undefined;
  const habit = habitOf(looks);
  const scatter = habit?.scatter ?? median(looks.map((l) => l.hand.sigma));
  const limit = Math.max(CONTRADICTS.scatters * scatter, CONTRADICTS.share);
  /** The position by a hand, as this player holds. */
  const told = (position: number) => position - (habit?.offset ?? 0);
  const spans = looks.map((_, k) => spanOf(looks, k, tracked.length - 1));
  const sure = spans.map(([from, to]) => placed !== undefined && tracked.slice(from, to + 1).some((f) => placed.has(f.index)));
  const against = (limit: number, limitOfGone: number) =>
    looks.map(({ hand, gone, position, shown }, k) => {
      if (sure[k]) return 0;
      const least = gone ? limitOfGone : limit;
      const off = (p: number) => (position ? told(p) - position.value : 0);
      // An arm may be lost, but not to where a hand is found.
      const all = [off(hand.position), ...(shown === undefined ? [] : [off(shown)])];
      return all.every((o) => o > least) ? 1 : all.every((o) => o < -least) ? -1 : 0;
    });
  const mistaken = borneOut(grown(against(limit, Math.max(limit, PUT_BACK)), against(limit / 2, limit / 2)), looks);
  const unsure = looks.map(({ i, position }) => !tracked[i]!.sighting.frog && (!position || position.u > UNSURE));
  if (!looks.some((_, k) => mistaken[k] || unsure[k])) return undefined;

  const out = [...tracked];
  looks.forEach(({ i, hand }, k) => {
    if (!mistaken[k] && !unsure[k]) return;
    if (mistaken[k]) {
      // Half way to the neighbouring looks nothing is known of the ends either.
      const [from, to] = spans[k]!;
      for (let j = from; j <= to; j++) out[j] = { ...tracked[j]!, sighting: { ...tracked[j]!.sighting, frog: undefined, tip: undefined } };
    }
    const frog = frogAt(context, tracked[i]!, bows[i]!, told(hand.position), habit ? LASTING * scatter : hand.sigma);
    out[i] = { ...out[i]!, sighting: { ...out[i]!.sighting, frog } };
  });
  return out;
}

const onBow = (position: number) => position > -BEYOND_BOW && position < 1 + BEYOND_BOW;

/** The frames that are nearer to a look than to its neighbours. */
function spanOf(looks: readonly Look[], k: number, last: number): readonly [from: number, to: number] {
  const { i } = looks[k]!;
  return [k === 0 ? 0 : Math.ceil((looks[k - 1]!.i + i) / 2), k === looks.length - 1 ? last : Math.floor((looks[k + 1]!.i + i) / 2)];
}

/** Which of the signs stand beside an equal one, and those beside these that agree with them at least weakly: an end mistaken in two looks is in the next too. */
function grown(strong: readonly number[], weak: readonly number[]): boolean[] {
  const out = strong.map((sign, k) => sign !== 0 && (strong[k - 1] === sign || strong[k + 1] === sign));
  for (const [from, to] of [
    [1, 1],
    [out.length - 2, -1],
  ] as const)
    for (let k = from; k >= 0 && k < out.length; k += to) if (out[k - to] && weak[k] !== 0 && weak[k] === weak[k - to]) out[k] = true;
  return out;
}

/** The runs in some look of which a hand was found where the arm leads to: networks lose arms, too, for several looks. */
function borneOut(mistaken: readonly boolean[], looks: readonly Look[]): boolean[] {
  const out = [...mistaken];
  for (let from = 0; from < out.length; from++) {
    if (!mistaken[from] || mistaken[from - 1]) continue;
    let to = from;
    while (mistaken[to + 1]) to++;
    if (looks.slice(from, to + 1).every((l) => l.shown === undefined)) out.fill(false, from, to + 1);
  }
  return out;
}

/** How far this player's hand is along from where hands usually are, and how steadily it is seen: of the half of the looks that lie closest together; undefined where not even half agree, or on what no hand does. */
function habitOf(looks: readonly Look[]): { readonly offset: number; readonly scatter: number } | undefined {
  const all = looks.flatMap(({ hand, position }) => (position ? [hand.position - position.value] : [])).sort((a, b) => a - b);
  const half = Math.ceil(all.length / 2);
  const width = (i: number) => all[i + half - 1]! - all[i]!;
  if (all.length < LEAST_LOOKS) return undefined;
  const first = Array.from({ length: all.length - half + 1 }, (_, i) => i).reduce((best, i) => (width(i) < width(best) ? i : best), 0);
  if (width(first) > AGREE) return undefined;
  const offset = median(all.slice(first, first + half));
  if (Math.abs(offset) > MOST_HABIT * median(looks.map((l) => l.hand.sigma))) return undefined;
  return { offset, scatter: Math.max(LEAST_SCATTER, (SIGMA_OF_MEDIAN * width(first)) / 2) };
}

/** The frog end as the hand tells it, px. */
function frogAt(context: BowContext, { pose }: TrackedFrame, bow: BowOnString, position: number, sigma: number): { point: Vec2; sigma: number } | undefined {
  const at = (p: number) => project(context.camera, bowInSpace(context, pose!, { ...bow, state: { ...bow.state, position: p } }).frog);
  const [here, there] = [at(position), at(position + 0.1)];
  return here && there ? { point: [here[0], here[1]], sigma: 10 * sigma * Math.hypot(there[0] - here[0], there[1] - here[1]) } : undefined;
}
