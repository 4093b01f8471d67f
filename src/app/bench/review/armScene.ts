import { between } from '../../../core/body/lookedAt';
import { type ArmPlace, armBetween } from '../../../core/body/measureArm';
import { torsoAxes } from '../../../core/body/torso';
import { bowInSpace } from '../../../core/bow/bowInSpace';
import { toOuter } from '../../../core/geometry/pose';
import { addScaled, dot, mix, subtract, type Vec3 } from '../../../core/geometry/vec3';
import { plateOutline } from '../../../core/instrument/plateOutline';
import { bowContextOf } from '../../../core/measures/measureFrames';
import type { Stroke } from '../../../core/strokes/stroke';
import type { TakeMeasures } from '../../../core/take/analyse';
import type { ArmScene, Bones } from '../../drawings/ArmPlate';

/** Player, instrument and bow in one frame as the arm plate draws them; undefined where the arm was not measured. */
export function armSceneOf(take: TakeMeasures, index: number, stroke: Stroke | undefined): ArmScene | undefined {
  const up = (take.vertical ?? take.supposedUp)?.direction;
  const t = take.frames[index]?.t;
  const arm = t === undefined ? undefined : armAt(take.arms ?? [], t);
  if (!arm || !up) return undefined;
  const { forward, left } = torsoAxes(arm.shoulder, arm.otherShoulder, up);
  const middle = mix(arm.shoulder, arm.otherShoulder, 0.5);
  const place = (p: Vec3): Vec3 => {
    const d = subtract(p, middle);
    return [dot(d, left), dot(d, forward), dot(d, up)];
  };
  const bones = (a: ArmPlace): Bones => ({ shoulder: place(a.shoulder), elbow: place(a.elbow), wrist: place(a.wrist) });
  const earlier = stroke ? (take.arms ?? []).filter((a) => a.t >= stroke.from && a.t < t! - 0.05).map(bones) : [];
  const pose = take.tracked[index]!.pose;
  const base = { ...bones(arm), otherShoulder: place(arm.otherShoulder), sigma: arm.sigma, earlier };
  if (!pose) return base;

  const { model } = take.solution;
  const inPlate = (p: Vec3) => place(toOuter(pose, p));
  const board = (['instrument.fingerboardEnd.low', 'instrument.nut.low', 'instrument.scroll', 'instrument.nut.high', 'instrument.fingerboardEnd.high'] as const).map((n) =>
    inPlate(model.landmarks[n]),
  );
  const instrument = {
    outline: plateOutline(model).map(inPlate),
    board,
    bridge: [inPlate(model.landmarks['instrument.bridge.low']), inPlate(model.landmarks['instrument.bridge.high'])] as const,
  };
  const bow = take.bows[index];
  if (!bow) return { ...base, instrument };
  const context = bowContextOf(take);
  const lineOf = (i: number, square: boolean) => {
    const b = take.bows[i];
    const p = take.tracked[i]!.pose;
    if (!b || !p) return undefined;
    const { frog, tip, contact } = bowInSpace(context, p, square ? { ...b, state: { ...b.state, skew: 0 } } : b);
    return { frog: place(frog), tip: place(tip), contact: place(contact) };
  };
  const here = lineOf(index, false)!;
  const square = lineOf(index, true)!;
  const way = stroke
    ? range(stroke.first, index, 2)
        .flatMap((i) => lineOf(i, false) ?? [])
        .map((l) => l.frog)
    : [];
  return {
    ...base,
    instrument,
    bow: here,
    way,
    square: [square.contact, addScaled(square.contact, subtract(square.frog, square.contact), SQUARE_REACH / Math.max(1, bow.state.position * take.dimensions.hair))],
  };
}

/** The square way is drawn from the contact out to where the hand is at the tip, mm. */
const SQUARE_REACH = 620;

const range = (from: number, to: number, step: number) => Array.from({ length: Math.max(0, Math.floor((to - from) / step) + 1) }, (_, k) => from + k * step);

/** The arm at a time, between the frames that were looked at. */
export function armAt(arms: readonly ArmPlace[], t: number): ArmPlace | undefined {
  const near = between(
    arms.map((a) => a.t),
    t,
  );
  if (!near) return undefined;
  const [a, b] = [arms[near.a]!, arms[near.b]!];
  return { ...(near.share < 0.5 ? a : b), ...armBetween(a, b, near.share) };
}
