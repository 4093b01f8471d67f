import { torsoAxes } from '../../../core/body/torso';
import { bowInSpace } from '../../../core/bow/bowInSpace';
import { toOuter } from '../../../core/geometry/pose';
import { dot, mix, subtract, type Vec3 } from '../../../core/geometry/vec3';
import { lowestPeg } from '../../../core/instrument/pegs';
import { plateOutline } from '../../../core/instrument/plateOutline';
import { bowContextOf } from '../../../core/measures/measureFrames';
import type { TakeMeasures } from '../../../core/take/analyse';
import type { StanceScene } from '../../drawings/StancePlate';
import { armAt } from './armScene';

/** The player as the stance plate draws it in one frame; undefined where the stance was not measured. */
export function stanceSceneOf(take: TakeMeasures, index: number): StanceScene | undefined {
  const up = (take.vertical ?? take.supposedUp)?.direction;
  const t = take.frames[index]?.t;
  const stances = take.stances ?? [];
  if (!up || t === undefined || stances.length === 0) return undefined;
  const place = stances.reduce((a, b) => (Math.abs((b.from + b.to) / 2 - t) < Math.abs((a.from + a.to) / 2 - t) ? b : a));
  const { stance } = place;
  const { forward, left } = torsoAxes(stance['shoulder.right'], stance['shoulder.left'], up);
  const ground = mix(stance['ankle.right'], stance['ankle.left'], 0.5);
  const hips = mix(stance['hip.right'], stance['hip.left'], 0.5);
  const inPlate = (p: Vec3): Vec3 => {
    const [d, h] = [subtract(p, hips), subtract(p, ground)];
    return [dot(d, left), dot(d, forward), dot(h, up)];
  };
  const joints = Object.fromEntries(Object.entries(stance).map(([joint, p]) => [joint, inPlate(p)])) as unknown as StanceScene['joints'];
  const arm = armAt(take.arms ?? [], t);
  const pose = take.tracked[index]?.pose;
  const { trunk_lean_deg, trunk_stoop_deg, peg_ear_mm } = take.frames[index]!.values;
  const told = { front: trunk_lean_deg !== undefined, side: trunk_stoop_deg !== undefined };
  const base: StanceScene = { joints, seen: place.seen, told, ...(arm ? { bowArm: { elbow: inPlate(arm.elbow), wrist: inPlate(arm.wrist) } } : {}) };
  if (!pose) return base;
  const { model } = take.solution;
  const at = (name: 'instrument.fingerboardEnd.low' | 'instrument.scroll') => inPlate(toOuter(pose, model.landmarks[name]));
  const bow = take.bows[index];
  const line = bow && bowInSpace(bowContextOf(take), pose, bow);
  return {
    ...base,
    instrument: { outline: plateOutline(model).map((p) => inPlate(toOuter(pose, p))), neck: [at('instrument.fingerboardEnd.low'), at('instrument.scroll')] },
    ...(peg_ear_mm ? { peg: inPlate(toOuter(pose, lowestPeg(model))) } : {}),
    ...(line ? { bow: [inPlate(line.frog), inPlate(line.tip)] as const } : {}),
  };
}
