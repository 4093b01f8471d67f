import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { add, addScaled, cross, DEGREES, dot, normalize, RADIANS, scale, subtract, type Vec3 } from '../geometry/vec3';
import { normal, seededRandom } from '../random';
import { median } from '../statistics';
import { elbowAngle, elbowRise, upperArmElevation } from './arm';
import { type ArmEvidence, type ArmFrame, fitArm } from './fitArm';
import { BODY_JOINTS, type BodyJoint, type BodySighting, everyJoint, type JointSighting, mirrorBody } from './sighting';
import { likelyStature } from './stature';
import { headingFrom } from './torso';

const W = 960;
const camera = cameraFromFieldOfView(W, 540);
const STATURE = 1620;
/** The camera looks down by 20 degrees: up in its frame. */
const up: Vec3 = [0, -Math.cos(20 * RADIANS), -Math.sin(20 * RADIANS)];
const toward = normalize(addScaled([0, 0, -1], up, up[2]));
const left = cross(up, toward);
/** mm to the player's left, toward the camera, up, from between the shoulders, as a place before the camera. */
const place = ([l, f, u]: Vec3): Vec3 => add([0, -120, 1500], add(add(scale(left, l), scale(toward, f)), scale(up, u)));

const UPPER = 0.18 * STATURE;
const FORE = 0.148 * STATURE;
const WIDTH = 0.187 * STATURE;

/** A right arm bowing on one level, its elbow where both bones reach, hanging outward and down. */
function armAt(i: number) {
  const position = 0.48 - 0.3 * Math.cos(i / 5);
  const shoulder: Vec3 = [-WIDTH / 2, 0, 0];
  // The bow crosses the strings before the left shoulder; the frog goes out to the right and forward with the stroke.
  const along = normalize([0.7, -0.7, 0.2] as Vec3);
  const contact: Vec3 = [105, 180, 30];
  const frog = addScaled(contact, along, -650 * position);
  const normalOfTop = normalize([-0.3, 0.1, 0.9] as Vec3);
  const z = normalize(addScaled(normalOfTop, along, -dot(normalOfTop, along)));
  // Left, forward, up is a left-handed order: the product turns round.
  const y = cross(along, z);
  const k = STATURE / 1700;
  const offset: Vec3 = [(-5 + 60 * (position - 0.45)) * k, 105 * k, 42 * k];
  const wrist = add(frog, add(add(scale(along, offset[0]), scale(y, offset[1])), scale(z, offset[2])));
  const reach = subtract(wrist, shoulder);
  const d = Math.min(Math.hypot(...reach), UPPER + FORE - 2);
  const u = normalize(reach);
  const a = (UPPER ** 2 - FORE ** 2 + d * d) / (2 * d);
  const out = normalize(addScaled([-0.6, 0.1, -0.8], u, -dot([-0.6, 0.1, -0.8], u)));
  const elbow = addScaled(addScaled(shoulder, u, a), out, Math.sqrt(Math.max(0, UPPER ** 2 - a * a)));
  return { position, shoulder, elbow, wrist: addScaled(shoulder, u, d), otherShoulder: [WIDTH / 2, 0, 0] as Vec3, frog, along, normalOfTop };
}

/** The bow's axes before the camera. */
function bowAxesOf({ frog, along, normalOfTop }: ReturnType<typeof armAt>): [Vec3, Vec3, Vec3] {
  const toward = (v: Vec3) => normalize(subtract(place(add(frog, v)), place(frog)));
  const [x, top] = [toward(along), toward(normalOfTop)];
  const z = normalize(addScaled(top, x, -dot(top, x)));
  return [x, cross(z, x), z];
}

function scene(
  n: number,
  seed: number,
  noisePx: number,
  lies: (i: number, joint: BodyJoint) => readonly [number, number] = () => [0, 0],
  doubt: (i: number, joint: BodyJoint) => Partial<JointSighting> = () => ({}),
): { truth: ArmFrame[]; frames: ArmEvidence[] } {
  const random = seededRandom(seed);
  const truth: ArmFrame[] = [];
  const frames = Array.from({ length: n }, (_, i): ArmEvidence => {
    const arm = armAt(i);
    const joints: Record<string, Vec3> = {
      'shoulder.right': place(arm.shoulder),
      'shoulder.left': place(arm.otherShoulder),
      'elbow.right': place(arm.elbow),
      'wrist.right': place(arm.wrist),
      'hip.left': place([90, 0, -470]),
      'hip.right': place([-90, 0, -470]),
    };
    truth.push({ shoulder: joints['shoulder.right']!, elbow: joints['elbow.right']!, wrist: joints['wrist.right']!, otherShoulder: joints['shoulder.left']! });
    const seen = everyJoint((name) => {
      const p = project(camera, joints[name] ?? place([0, 0, 0]))!;
      const lie = lies(i, name);
      return { point: [p[0] + noisePx * normal(random) + lie[0], p[1] + noisePx * normal(random) + lie[1]], space: joints[name] ?? [0, 0, 0], seen: 0.997, ...doubt(i, name) };
    });
    const heading = 42 * RADIANS;
    return {
      body: { frame: 4 * i, t: 0.15 * i, joints: seen },
      bow: {
        frog: place(arm.frog),
        tip: place(addScaled(arm.frog, arm.along, 650)),
        contact: place(addScaled(arm.frog, arm.along, 650 * arm.position)),
        axes: bowAxesOf(arm),
        position: arm.position,
      },
      instrument: { endButton: place([0, 76, 10]), ahead: normalize(add(scale(toward, Math.cos(heading)), scale(left, Math.sin(heading)))) },
    };
  });
  return { truth, frames };
}

const stature = { value: 1680, sigma: 90 };
const fitted = (frames: readonly ArmEvidence[], marked?: Parameters<typeof fitArm>[0]['marked']) =>
  fitArm({ camera, frames, stature, up, upSigmaDeg: 0.5, ...(marked ? { marked } : {}) })!;
const errors = (truth: readonly ArmFrame[], found: readonly ArmFrame[], value: (a: ArmFrame) => number) => truth.map((a, i) => Math.abs(value(found[i]!) - value(a)));

describe('the bow arm in space', () => {
  it('hangs from a shoulder a little lower than networks see it', () => {
    /** By how much the upper arm is told too high, degrees, where the shoulder is seen so many px too high; a fortieth of the torso is 6. */
    const tooHigh = (px: number) => {
      const { truth, frames } = scene(40, 3, 3, (_, joint) => (joint === 'shoulder.right' ? [0, -px] : [0, 0]));
      const { frames: found } = fitted(frames);
      return median(truth.map((a, i) => upperArmElevation(found[i]!, up) - upperArmElevation(a, up)));
    };
    expect(Math.abs(tooHigh(6))).toBeLessThan(1);
  });

  it('is found from joints seen with the noise of a network, a person of unknown height', () => {
    for (const seed of [1, 2, 3]) {
      const { truth, frames } = scene(40, seed, 6);
      const fit = fitted(frames);
      expect(fit.trust).toBeGreaterThan(0.9);
      expect(median(errors(truth, fit.frames, elbowAngle))).toBeLessThan(6);
      expect(median(errors(truth, fit.frames, (a) => elbowRise(a, up)))).toBeLessThan(6);
    }
  });

  it('says how sure it is: truth within two uncertainties nearly always, and not by a huge one', () => {
    const { truth, frames } = scene(40, 5, 6);
    const fit = fitted(frames);
    const off = errors(truth, fit.frames, elbowAngle);
    const u = truth.map((_, i) => fit.sigmaOf(i, elbowAngle));
    expect(off.filter((e, i) => e <= 2 * u[i]!).length / off.length).toBeGreaterThan(0.85);
    expect(median(u)).toBeLessThan(12);
  });

  it('trusts an elbow less, and says so, where the network calls it likelier hidden than usual, or sees it elsewhere in a mirror', () => {
    const away = (i: number, joint: BodyJoint) => joint === 'elbow.right' && i >= 15 && i < 20;
    const lies = (i: number, joint: BodyJoint) => (away(i, joint) ? ([60, 80] as const) : ([0, 0] as const));
    const worst = (doubt?: (i: number, joint: BodyJoint) => Partial<JointSighting>) => {
      const { truth, frames } = scene(40, 7, 4, lies, doubt);
      const fit = fitted(frames);
      return { off: Math.max(...errors(truth, fit.frames, (a) => elbowRise(a, up)).slice(15, 20)), u: fit.sigmaOf(17, (a) => elbowRise(a, up)) };
    };
    const plain = worst();
    for (const told of [{ seen: 0.97 }, { apart: 90 }]) {
      const warned = worst((i, joint) => (away(i, joint) ? told : {}));
      expect(warned.off).toBeLessThan(0.75 * plain.off);
      expect(warned.u).toBeGreaterThan(1.1 * plain.u);
    }
  });

  it('is not led astray by frames in which the network takes the wrong limb', () => {
    const wrong = (i: number, joint: BodyJoint) => (i % 6 === 2 && joint === 'elbow.right' ? ([120, 90] as const) : ([0, 0] as const));
    const { truth, frames } = scene(40, 4, 5, wrong);
    expect(median(errors(truth, fitted(frames).frames, elbowAngle))).toBeLessThan(7);
  });

  it('keeps what each picture showed of the elbow by itself, at its depth', () => {
    const { frames } = scene(40, 1, 1, (i, joint) => (i === 20 && joint === 'elbow.right' ? [0, -30] : [0, 0]));
    const fit = fitted(frames);
    const heights = (i: number) => [fit.seenElbow(i)!, fit.frames[i]!.elbow].map((p) => project(camera, p)![1]) as [number, number];
    const [seen, smooth] = heights(20);
    expect(smooth - seen).toBeGreaterThan(12);
    expect(fit.seenElbow(20)![2]).toBeCloseTo(fit.frames[20]!.elbow[2], 6);
    for (const i of [5, 10, 30]) expect(Math.abs(heights(i)[0] - heights(i)[1])).toBeLessThan(6);
    const blind = frames.map((f, i) => (i === 20 ? { ...f, body: { frame: f.body.frame, t: f.body.t } } : f));
    expect(fitted(blind).seenElbow(20)).toBeUndefined();
  });

  it('gains from joints placed by hand where the network errs by the same amount throughout', () => {
    const { truth, frames } = scene(40, 6, 4, (_, joint) => (joint === 'elbow.right' ? [14, 12] : [0, 0]));
    const marked = new Map([3, 12].map((i) => [4 * i, { 'elbow.right': project(camera, truth[i]!.elbow)!, 'shoulder.right': project(camera, truth[i]!.shoulder)! }] as const));
    const without = median(errors(truth, fitted(frames).frames, (a) => elbowRise(a, up)));
    expect(median(errors(truth, fitted(frames, marked).frames, (a) => elbowRise(a, up)))).toBeLessThan(without);
  });

  it('tells that network and bow do not agree', () => {
    const { frames } = scene(20, 7, 4, (_, joint) => (joint === 'wrist.right' ? [90, 60] : [0, 0]));
    expect(fitted(frames).trust).toBeLessThan(0.5);
  });

  it('is not guessed from fewer than three frames with a player', () => {
    const { frames } = scene(6, 8, 3);
    const empty = frames.map((f, i): ArmEvidence => (i < 4 ? { ...f, body: { frame: f.body.frame, t: f.body.t } } : f));
    expect(fitArm({ camera, frames: empty, stature, up, upSigmaDeg: 0.5 })).toBeUndefined();
  });
});

describe('definitions', () => {
  it('elbow angle agrees with three.js on random arms', () => {
    const random = seededRandom(9);
    for (let k = 0; k < 30; k++) {
      const [s, e, w] = [0, 1, 2].map((): Vec3 => [normal(random) * 200, normal(random) * 200, normal(random) * 200]) as [Vec3, Vec3, Vec3];
      const angle = new Vector3(...subtract(s, e)).angleTo(new Vector3(...subtract(w, e))) * DEGREES;
      expect(elbowAngle({ shoulder: s, elbow: e, wrist: w })).toBeCloseTo(angle, 6);
    }
  });
  it('heading is + to the left of where the torso faces, whatever the pitch', () => {
    const z: Vec3 = [0, 0, 1];
    expect(headingFrom([0, 1, 0], normalize([-1, 1, 0.6]), z)).toBeCloseTo(45, 6);
    expect(headingFrom([0, 1, 0], [1, 0, 0], z)).toBeCloseTo(-90, 6);
  });
  it('height grows with the size of the instrument', () => {
    const heights = [230, 255, 280, 310, 335, 356, 406].map((body) => likelyStature({ body } as never).value);
    expect(heights).toEqual([...heights].sort((a, b) => a - b));
    expect(likelyStature({ body: 200 } as never).value).toBe(heights[0]);
    expect(likelyStature({ body: 322 } as never).value).toBeCloseTo((heights[3]! + heights[4]!) / 2, -1);
  });
  it('a mirror swaps left and right, and twice is none', () => {
    const body: BodySighting = { ...scene(1, 2, 0).frames[0]!.body, bowHand: [[10, 20]] };
    const there = mirrorBody(body, W);
    expect(there.joints!['elbow.left'].point[0]).toBeCloseTo(W - body.joints!['elbow.right'].point[0]);
    expect(there.bowHand![0]).toEqual([W - 10, 20]);
    const back = mirrorBody(there, W).joints!;
    for (const name of BODY_JOINTS) expect(back[name].point[0]).toBeCloseTo(body.joints![name].point[0], 9);
  });
});
