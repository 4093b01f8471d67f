import { bowAsSeen, deeper, handMiddle } from '../../src/core/body/handView';
import { project } from '../../src/core/geometry/camera';
import { toOuter } from '../../src/core/geometry/pose';
import { rotate } from '../../src/core/geometry/rotation';
import type { Vec3 } from '../../src/core/geometry/vec3';
import { seededRandom } from '../../src/core/random';
import { Phone } from '../camera/phone';
import { jointsAt } from '../figure/joints';
import { heldPlayer, variedHandPlace, variedHold } from '../presets/heldHands';
import type { Stage } from '../render/stage';

/** One square picture about the middle of the bow hand, with where its joints lie. */
export interface LabelledHand {
  readonly picture: string;
  readonly room: boolean;
  /** Millimetres that the square is across at the hand's middle, of a grown player's hand. */
  readonly across: number;
  /** As the network is told: along the hair and out of the top, in axes of the line of sight. */
  readonly bow: readonly number[];
  /** The 21 points: pixels of the crop, and how much further away than the hand's middle, mm of a grown player's hand. */
  readonly points: readonly (readonly [u: number, v: number, deeper: number])[];
}

/** Reaches beyond what the network is shown, so that training may shift and turn within it; mm of a grown hand. */
const ACROSS = 260;

/** Pictures of one player's bow hand, each with a hold of its own from a place of its own. */
export async function labelledHands(
  stageOf: (seed: number, pixels: number) => Stage,
  seed: number,
  count: number,
  pixels: number,
  encode: (canvas: OffscreenCanvas) => Promise<string>,
): Promise<LabelledHand[]> {
  const stage = stageOf(seed, pixels);
  const scenario = heldPlayer(seed);
  const size = stage.performance.stature / 1700;
  const random = seededRandom(seed * 52_561 + 5);
  const out: LabelledHand[] = [];
  for (let n = 0; n < count; n++) {
    const place = variedHandPlace(seed, n);
    const posture = { ...scenario.posture, hold: variedHold(seed, n) };
    const moment = stage.performance.at(random() * stage.performance.duration);
    const phone = new Phone({ ...scenario, view: 'hand-front', fieldOfView: place.fieldOfView, shake: 0 }, stage.performance.stature, moment, place);
    const eye = phone.poseAt(moment.t);
    const joints = jointsAt(moment, stage.build, stage.performance.stature, posture);
    const seen = (room: Vec3) => project(phone.camera, toOuter(eye, room));
    const { along, back, off } = joints.bowAxes;
    const axes = [along, back, off].map((axis) => rotate(eye.rotation, axis)) as [Vec3, Vec3, Vec3];
    const middle = handMiddle(toOuter(eye, moment.frog), axes, size);
    const centre = project(phone.camera, middle);
    const points = joints.handRight.joints.map((p) => ({ at: seen(p), depth: deeper(toOuter(eye, p), middle) / size }));
    if (!centre || points.some((p) => !p.at)) continue;
    const side = (ACROSS * size * phone.camera.focal) / Math.hypot(...middle);
    const [left, top] = [centre[0] - side / 2, centre[1] - side / 2];
    const room = random() < 0.4;
    stage.showRoom(room);
    stage.cut(phone, { left, top, side });
    stage.pose(moment, phone, posture);
    const picture = await encode(stage.shoot(room));
    const k = pixels / side;
    out.push({
      picture,
      room,
      across: ACROSS,
      bow: bowAsSeen(middle, axes).flat().map(round),
      points: points.map(({ at, depth }) => [round(k * (at![0] - left)), round(k * (at![1] - top)), round(depth)] as const),
    });
  }
  stage.dispose();
  return out;
}

const round = (x: number): number => Math.round(1000 * x) / 1000;
