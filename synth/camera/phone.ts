import { type Camera, cameraFromFieldOfView } from '../../src/core/geometry/camera';
import { type Pose, toOuter } from '../../src/core/geometry/pose';
import { add, addScaled, cross, normalize, RADIANS, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { seededRandom } from '../../src/core/random';
import { wander } from '../motion/course';
import type { Moment } from '../motion/performance';
import type { Scenario } from '../presets/scenario';

/** A phone held or propped before the player: a pinhole camera with a little shake. */
export class Phone {
  readonly camera: Camera;
  private readonly position: Vec3;
  private readonly target: Vec3;
  private readonly shakes: ((t: number) => number)[];

  constructor(
    private readonly scenario: Scenario,
    stature: number,
    moment: Moment,
    /** Moves the phone from its view's place: degrees to the player's left and up, and a factor of distance. */
    moved: { readonly azimuth: number; readonly elevation: number; readonly nearer: number } = { azimuth: 0, elevation: 0, nearer: 1 },
  ) {
    this.camera = cameraFromFieldOfView(scenario.width, scenario.height, scenario.fieldOfView);
    const random = seededRandom(scenario.seed * 53 + 17);
    const vary = (x: number, spread: number) => x + (scenario.seed === 1 ? 0 : (2 * random() - 1) * spread);
    const k = stature / 1700;
    // Azimuth from straight ahead, + toward the player's left; elevation above the horizon; distance in mm.
    const [azimuth, elevation, distance] = {
      'front-above': [vary(8, 10), vary(22, 6), vary(1130, 120)],
      'scroll-side': [vary(34, 7), vary(22, 6), vary(1200, 100)],
      'bow-side': [vary(-30, 8), vary(20, 6), vary(1200, 100)],
      'whole-body': [vary(5, 10), vary(8, 4), vary(2500, 150)],
      profile: [vary(-92, 8), vary(6, 4), vary(2400, 150)],
      'hand-front': [vary(4, 8), vary(18, 6), vary(560, 50)],
      'hand-low': [vary(-52, 8), vary(-14, 5), vary(560, 50)],
      'left-hand': [vary(10, 12), vary(20, 8), vary(560, 50)],
    }[scenario.view] as [number, number, number];
    const seated = scenario.family === 'cello' || scenario.family === 'bass';
    const whole: Vec3 = [30 * k, -150 * k, (seated ? 0.42 : 0.55) * stature];
    const playing: Vec3 = seated ? [0, -330 * k, 0.47 * stature] : [20 * k, -250 * k, 0.82 * stature];
    // Close-ups look at the hand where it is at a moment in mid-bow.
    const bowHand = addScaled(moment.frog, normalize(subtract(moment.frog, moment.tip)), 10 * k);
    const fretHand = toOuter(moment.instrument, [280 * k, 0, -10 * k]);
    this.target = {
      'whole-body': whole,
      profile: whole,
      'hand-front': bowHand,
      'hand-low': bowHand,
      'left-hand': fretHand,
      'front-above': playing,
      'scroll-side': playing,
      'bow-side': playing,
    }[scenario.view];
    const a = (azimuth + moved.azimuth) * RADIANS;
    const e = (elevation + moved.elevation) * (seated ? 0.55 : 1) * RADIANS;
    this.position = add(
      this.target,
      scale(
        [Math.sin(a) * Math.cos(e), -Math.cos(a) * Math.cos(e), Math.sin(e)],
        (distance / moved.nearer) * (0.35 + 0.65 * k) * (seated && !scenario.view.includes('hand') ? 1.35 : 1),
      ),
    );
    this.shakes = Array.from({ length: 5 }, () => wander(random, 0.3, 2.2));
  }

  /** Room to camera (x right, y down, z away) at a moment. */
  poseAt(t: number): Pose {
    const s = this.scenario.shake;
    const position = add(this.position, [s * 3 * this.shakes[0]!(t), s * 2 * this.shakes[1]!(t), s * 3 * this.shakes[2]!(t)]);
    const target = add(this.target, [s * 4 * this.shakes[3]!(t), 0, s * 4 * this.shakes[4]!(t)]);
    const z = normalize(subtract(target, position));
    const x = normalize(cross(z, [0, 0, 1]));
    const y = cross(z, x);
    const rotation = [...x, ...y, ...z] as unknown as Pose['rotation'];
    const m = rotation;
    return {
      rotation,
      translation: [
        -(m[0] * position[0] + m[1] * position[1] + m[2] * position[2]),
        -(m[3] * position[0] + m[4] * position[1] + m[5] * position[2]),
        -(m[6] * position[0] + m[7] * position[1] + m[8] * position[2]),
      ],
    };
  }
}
