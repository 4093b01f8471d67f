import { armBowGap, elbowAngle, elbowBehind, elbowHeight, elbowRise, upperArmElevation } from '../../src/core/body/arm';
import { type Finger, fingerBends, handOpening, littleToStick, middleCrossing, thumbBends, thumbSlant, tipGap, wristBend } from '../../src/core/body/hand';
import { leftWristBend } from '../../src/core/body/leftWrist';
import { BACK_POINTS, lumbarArch } from '../../src/core/body/lumbarArch';
import { celloLean, headTilt, headTurn, kneeAngle, leftElbowGap, pegToEar, shoulderLift, stanceWidth, trunkLean, trunkStoop } from '../../src/core/body/stance';
import { torsoAxes } from '../../src/core/body/torso';
import type { Marks } from '../../src/core/formats/marks';
import { insidePicture, project } from '../../src/core/geometry/camera';
import { toOuter } from '../../src/core/geometry/pose';
import { rotate } from '../../src/core/geometry/rotation';
import { addScaled, DEGREES, normalize, scale, subtract, type Vec2, type Vec3 } from '../../src/core/geometry/vec3';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark } from '../../src/core/instrument/landmarks';
import { lowestPeg } from '../../src/core/instrument/pegs';
import { levelMargin } from '../../src/core/instrument/strings';
import { QUANTITIES, type Quantity } from '../../src/core/measures/measures';
import { normal, seededRandom } from '../../src/core/random';
import type { Phone } from '../camera/phone';
import { stickAxis } from '../figure/bowHold';
import { backOf, bowArm, type Joints, jointsAt, stanceOf } from '../figure/joints';
import type { InstrumentBuild } from '../instrument/build';
import type { Moment, Performance } from '../motion/performance';
import type { Scenario, View } from '../presets/scenario';

/** Asks the renderer whether a point of the room can be seen at a moment, or lies no deeper than `grace` mm behind what can. */
export type SeesPoint = (point: Vec3, grace?: number) => boolean;

export interface NamedPoint {
  readonly name: string;
  readonly room: Vec3;
}

const UP: Vec3 = [0, 0, 1];

/** Every named point of the scene at a moment, room frame. */
export function namedPoints(moment: Moment, joints: Joints, build: InstrumentBuild, stature: number): NamedPoint[] {
  const b = normalize(subtract(moment.tip, moment.frog));
  const off = joints.bowAxes.off;
  const back = backOf(joints, stature);
  return [
    ...INSTRUMENT_LANDMARKS.map((name) => ({ name, room: toOuter(moment.instrument, build.model.landmarks[name as InstrumentLandmark]) })),
    { name: 'bow.frog', room: moment.frog },
    { name: 'bow.tip', room: moment.tip },
    { name: 'bow.stickTip', room: addScaled(addScaled(moment.tip, b, 12), off, 16) },
    { name: 'bow.screw', room: stickAxis({ frog: moment.frog, ...joints.bowAxes }, moment.stickLean, build.bowScale, -61 * build.bowScale) },
    { name: 'contact', room: moment.contact },
    // A vertical of the room beside the player, for a plumb line.
    { name: 'room.plumb.high', room: [450, 300, 1650] },
    { name: 'room.plumb.low', room: [450, 300, 150] },
    { name: 'body.nose', room: joints.nose },
    { name: 'body.ear.left', room: joints.earLeft },
    { name: 'body.ear.right', room: joints.earRight },
    ...joints.handRight.joints.map((room, i) => ({ name: `hand.bow.${i}`, room })),
    ...BACK_POINTS.map((part) => ({ name: `body.back.${part}`, room: back[part] })),
    ...joints.handLeft.joints.map((room, i) => ({ name: `hand.left.${i}`, room })),
    ...(
      [
        ['shoulder', joints.shoulderLeft, joints.shoulderRight],
        ['elbow', joints.elbowLeft, joints.elbowRight],
        ['wrist', joints.wristLeft, joints.wristRight],
        ['hip', joints.hipLeft, joints.hipRight],
        ['knee', joints.kneeLeft, joints.kneeRight],
        ['ankle', joints.ankleLeft, joints.ankleRight],
      ] as const
    ).flatMap(([part, left, right]) => [
      { name: `body.${part}.left`, room: left },
      { name: `body.${part}.right`, room: right },
    ]),
  ];
}

/** Columns that mean something only while the bow is on the string. */
const ON_STRING = [
  'skew_deg',
  'contact_mm',
  'contact_fraction',
  'contact_beta',
  'inclination_deg',
  'level_margin_deg',
  'bow_position',
  'bow_speed_mm_s',
  'arm_bow_gap_deg',
  'elbow_height',
] as const satisfies readonly Quantity[];

/** Joints of the bow hand that are marked in one frame where the hand is what the film is for: those each side shows (after the arm and hand recipe). */
const HAND_MARKS: Partial<Record<View, readonly number[]>> = { 'hand-front': [0, 9, 17, 18, 19, 20], 'hand-low': [2, 3, 4, 17, 18, 19, 20] };
/** So deep in the flesh joints lie, mm at most (from memory); placed by eye they are off by so many times what marks on edges are (ours, from another renderer's marks). */
const IN_HAND = { deep: 25, noise: 3.5 } as const;

/** Gathers the exact truth of a clip while it is rendered. */
export class TruthBook {
  private readonly rows: string[] = [`frame,t,${QUANTITIES.join(',')},string`];
  private readonly places: string[] = ['frame,point,u,v,visible,x_mm,y_mm,z_mm'];
  private readonly handMarks: ReadonlySet<string>;
  private readonly markable: { t: number; frame: number; points: Record<string, Vec2>; score: number }[] = [];

  constructor(
    private readonly scenario: Scenario,
    private readonly build: InstrumentBuild,
    private readonly performance: Performance,
    private readonly phone: Phone,
  ) {
    this.handMarks = new Set(HAND_MARKS[scenario.view]?.map((joint) => `hand.bow.${joint}`));
  }

  add(frame: number, moment: Moment, sees: SeesPoint | undefined): void {
    const joints = jointsAt(moment, this.build, this.performance.stature, this.scenario.posture);
    const m = moment.instrument.rotation;
    const x = rotate(m, [1, 0, 0]);
    const y = rotate(m, [0, 1, 0]);
    const z = rotate(m, [0, 0, 1]);
    const arm = bowArm(joints);
    const stance = stanceOf(joints);
    const back = backOf(joints, this.performance.stature);
    const hand = joints.handRight.joints;
    const wrist = wristBend(hand, subtract(arm.wrist, arm.elbow), 1);
    const thumb = thumbBends(hand, 1);
    const bends = <F extends Finger>(finger: F) => {
      const { mcp, pip, dip } = fingerBends(hand, finger, 1);
      return { [`${finger}_mcp_deg`]: mcp, [`${finger}_pip_deg`]: pip, [`${finger}_dip_deg`]: dip } as Record<`${F}_${'mcp' | 'pip' | 'dip'}_deg`, number>;
    };
    const at = (x: number) => stickAxis({ frog: moment.frog, ...joints.bowAxes }, moment.stickLean, this.build.bowScale, x);
    const stick = { a: at(0), b: at(100) };
    const numbers: Record<Quantity, number> = {
      skew_deg: moment.bow.skew,
      contact_mm: moment.bow.contact,
      contact_fraction: moment.bow.contact / this.build.model.fingerboardEndX,
      contact_beta: moment.bow.contact / this.build.model.stringLength,
      level_margin_deg: levelMargin(this.performance.levels, moment.string, moment.bow.inclination),
      inclination_deg: moment.bow.inclination,
      bow_position: moment.bow.position,
      bow_speed_mm_s: moment.speed,
      instrument_pitch_deg: Math.asin(x[2]) * DEGREES,
      instrument_roll_deg: Math.atan2(y[2], z[2]) * DEGREES,
      instrument_heading_deg: moment.headingToTorso,
      elbow_angle_deg: elbowAngle(arm),
      elbow_rise_deg: elbowRise(arm, UP),
      upper_arm_elevation_deg: upperArmElevation(arm, UP),
      arm_bow_gap_deg: armBowGap(arm, subtract(moment.tip, moment.frog), UP),
      elbow_height: elbowHeight(arm, moment.contact, UP),
      elbow_behind: elbowBehind(arm, joints.shoulderLeft, joints.face, UP),
      wrist_flexion_deg: wrist.flexion,
      wrist_deviation_deg: wrist.deviation,
      thumb_ip_deg: thumb.ip,
      thumb_mcp_deg: thumb.mcp,
      thumb_slant_deg: thumbSlant(hand, [joints.bowAxes.along, joints.bowAxes.back]),
      ...bends('index'),
      ...bends('middle'),
      ...bends('ring'),
      ...bends('little'),
      little_to_stick: littleToStick(hand, stick),
      middle_crossing: middleCrossing(hand, stick),
      gap_index_middle: tipGap(hand, 'index', 'middle'),
      gap_ring_little: tipGap(hand, 'ring', 'little'),
      hand_opening: handOpening(hand),
      knee_deg: kneeAngle(stance),
      cello_lean_deg: celloLean(x, UP),
      peg_ear_mm: pegToEar(stance, toOuter(moment.instrument, lowestPeg(this.build.model))),
      trunk_lean_deg: trunkLean(stance, UP),
      trunk_stoop_deg: trunkStoop(stance, UP),
      shoulder_lift: shoulderLift(stance, UP),
      head_turn_deg: headTurn(stance, UP),
      head_tilt_deg: headTilt(stance, UP),
      stance_width: stanceWidth(stance),
      left_elbow_gap: leftElbowGap(stance, UP),
      // A hand away from the neck has no bend of its own.
      left_wrist_deg:
        this.scenario.posture.leftHandAway > 0 || moment.ready.leftAway > 0
          ? Number.NaN
          : leftWristBend(
              { elbow: joints.elbowLeft, wrist: joints.wristLeft, knuckle: joints.handLeft.joints[9]! },
              scale(y, Math.sign(this.build.model.landmarks['instrument.nut.high'][1])),
            ),
      lumbar_arch: lumbarArch(back, torsoAxes(joints.shoulderRight, joints.shoulderLeft, UP).forward),
    };
    const string = moment.soundingString === undefined ? '' : this.performance.strings[moment.soundingString]!.name;
    // A bow that is not on the string has no place there.
    if (moment.ready.onString < 1) for (const c of ON_STRING) numbers[c] = Number.NaN;
    this.rows.push([frame, moment.t.toFixed(5), ...QUANTITIES.map((c) => (Number.isNaN(numbers[c]) ? '' : numbers[c].toFixed(4))), string].join(','));
    if (!sees) return;
    const toCamera = this.phone.poseAt(moment.t);
    const points: Record<string, Vec2> = {};
    let visible = 0;
    for (const { name, room } of namedPoints(moment, joints, this.build, this.performance.stature)) {
      const straight = project(this.phone.camera, toOuter(toCamera, room));
      if (!straight) continue;
      const image: Vec2 = this.scenario.leftHanded ? [this.scenario.width - straight[0], straight[1]] : straight;
      const seen = insidePicture(this.phone.camera, image, 2) && sees(room);
      this.places.push([frame, name, image[0].toFixed(2), image[1].toFixed(2), seen ? 1 : 0, ...room.map((c) => c.toFixed(1))].join(','));
      const ofHand = this.handMarks.has(name);
      const markable = name.startsWith('instrument.') || (name === 'bow.frog' && this.scenario.frogMarked) || name === 'bow.tip' || ofHand;
      const guessed = insidePicture(this.phone.camera, image, 4) && (name === 'bow.frog' || (ofHand && sees(room, IN_HAND.deep)));
      if (markable && (seen || guessed)) {
        points[name] = image;
        visible += name === 'bow.tip' || name.includes('bridge.') ? 3 : 1;
      }
    }
    // A teacher picks a calm frame that shows much, the bow not near an end.
    const calm = 2 * Math.abs(moment.bow.position - 0.55);
    if (moment.ready.onString === 1) this.markable.push({ t: moment.t, frame, points, score: visible - calm });
  }

  truthCsv(): string {
    return `${this.rows.join('\n')}\n`;
  }

  landmarksCsv(): string {
    return `${this.places.join('\n')}\n`;
  }

  /** Faults, strokes and notes as they were meant. */
  scoreJson(): string {
    const { name, seed, family, size, faults, strokes, soundLate, tuneCents } = this.scenario;
    return `${JSON.stringify({ format: 'gestometra-score/1', name, seed, family, size, faults, strokes, soundLate, tuneCents, notes: this.performance.notes(), strays: this.performance.strays(), holds: this.performance.holds() }, null, 1)}\n`;
  }

  /** Marks in the best frame, each off by `noise` pixels at 960 across (1 sigma; joints of the hand by more), as a careful teacher would place them. */
  marks(noise = 0.7): Marks {
    const best = this.markable.reduce((a, b) => (b.score > a.score ? b : a));
    const random = seededRandom(this.scenario.seed * 977 + 1);
    const unit = Math.max(this.scenario.width, this.scenario.height) / 960;
    const { width, height } = this.scenario;
    const jitter = ([u, v]: Vec2, sigma: number): [number, number] => [
      Math.min(width, Math.max(0, Number((u + normal(random) * sigma).toFixed(2)))),
      Math.min(height, Math.max(0, Number((v + normal(random) * sigma).toFixed(2)))),
    ];
    const sigmaOf = (name: string) => noise * unit * (name.startsWith('hand.') ? IN_HAND.noise : 1);
    return {
      format: 'gestometra-marks/1',
      video: { width, height },
      instrument: { family: this.scenario.family, size: this.scenario.size },
      frames: [{ t: Number(best.t.toFixed(4)), points: Object.fromEntries(Object.entries(best.points).map(([name, p]) => [name, jitter(p, sigmaOf(name))])) }],
    };
  }
}
