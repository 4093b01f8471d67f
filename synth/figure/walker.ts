import { add, addScaled, cross, normalize, RADIANS, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { growthAt } from './growth';
import { hangingHand } from './hangingHand';
import { HEAD_HEIGHT } from './head';
import type { Joints } from './joints';

/** How far a step goes, share of the height, and how long it takes, seconds (from memory, gait tables). */
const STEP = 0.4;
const STEP_SECONDS = 0.55;
/** The thigh swings so far to either side, the arm so far against it, degrees. */
const THIGH = 24;
const ARM = 20;

/**
 * Someone who walks through the room without an instrument: joints at a moment, room frame, mm. `from` is where the
 * person is at t = 0, on the floor; `way` a unit vector of the floor.
 */
export function walkerAt(t: number, stature: number, from: Vec3, way: Vec3): Joints {
  const H = stature;
  const k = H / 1700;
  const phase = (Math.PI * t) / STEP_SECONDS;
  const swing = Math.sin(phase);
  const here = addScaled(from, way, (STEP * H * t) / STEP_SECONDS);
  const up: Vec3 = [0, 0, 1];
  const left = cross(up, way);
  const at = (ahead: number, toLeft: number, height: number): Vec3 => add(addScaled(addScaled(here, way, ahead), left, toLeft), [0, 0, height]);
  const bob = 12 * k * Math.cos(2 * phase);
  const leg = (side: 1 | -1) => {
    const s = side * swing;
    const hip = at(0, side * 0.052 * H, 0.52 * H + bob);
    const thigh = THIGH * s * RADIANS;
    // The leg that comes forward is bent.
    const shin = thigh - (s > 0 ? 8 : 30 * -s + 8) * RADIANS;
    const knee = addScaled(addScaled(hip, way, Math.sin(thigh) * 0.24 * H), up, -Math.cos(thigh) * 0.24 * H);
    const ankle = addScaled(addScaled(knee, way, Math.sin(shin) * 0.235 * H), up, -Math.cos(shin) * 0.235 * H);
    return { hip, knee, ankle, toe: addScaled(addScaled(ankle, way, 112 * k), up, -0.03 * H) };
  };
  const arm = (side: 1 | -1) => {
    const s = -side * swing;
    const shoulder = at(10 * k, side * 0.094 * H, 0.81 * H + bob);
    const upper = ARM * s * RADIANS;
    const fore = upper + (14 + 12 * Math.max(0, s)) * RADIANS;
    const elbow = addScaled(addScaled(addScaled(shoulder, way, Math.sin(upper) * 0.18 * H), up, -Math.cos(upper) * 0.18 * H), left, side * 24 * k);
    const wrist = addScaled(addScaled(elbow, way, Math.sin(fore) * 0.148 * H), up, -Math.cos(fore) * 0.148 * H);
    return { shoulder, elbow, wrist, hand: hangingHand(wrist, way, scale(left, side), H) };
  };
  const [r, l] = [leg(-1), leg(1)];
  const [ra, la] = [arm(-1), arm(1)];
  const size = growthAt(H).headHeight / HEAD_HEIGHT;
  const crown = normalize(add(up, scale(way, 0.06)));
  const face = normalize(addScaled(way, crown, -(way[0] * crown[0] + way[1] * crown[1] + way[2] * crown[2])));
  const head = at(14 * k, 0, 0.81 * H + bob + 0.045 * H + 92 * size);
  const toRight = cross(face, crown);
  const onHead = (x: number, y: number, z: number): Vec3 => addScaled(addScaled(addScaled(head, toRight, x * size), face, y * size), crown, z * size);
  return {
    shoulderRight: ra.shoulder,
    elbowRight: ra.elbow,
    wristRight: ra.wrist,
    shoulderLeft: la.shoulder,
    elbowLeft: la.elbow,
    wristLeft: la.wrist,
    hipRight: r.hip,
    hipLeft: l.hip,
    waist: at(0, 0, 0.6 * H + bob),
    kneeRight: r.knee,
    kneeLeft: l.knee,
    ankleRight: r.ankle,
    ankleLeft: l.ankle,
    toeRight: r.toe,
    toeLeft: l.toe,
    head,
    face,
    crown,
    nose: onHead(0, 101, -18),
    earLeft: onHead(-73, -8, 2),
    earRight: onHead(73, -8, 2),
    gaze: addScaled(head, way, 2000),
    blink: 0,
    bowAxes: { along: way, back: left, off: up },
    seat: undefined,
    handRight: { palm: ra.hand.palm, joints: ra.hand.joints },
    handLeft: { palm: la.hand.palm, joints: la.hand.joints },
  };
}

/** Where a walker begins and goes, by seed: behind the player, to either side, so that the way passes the picture within some seconds. */
export function walkOf(random: () => number, duration: number, stature: number): { readonly from: Vec3; readonly way: Vec3 } {
  const side = random() < 0.5 ? 1 : -1;
  const speed = (STEP * stature) / STEP_SECONDS;
  const middle = duration * (0.35 + 0.3 * random());
  const behind = 480 + 140 * random();
  return { from: subtract([0, behind, 0], scale([side, 0, 0], speed * middle)), way: [side, 0, 0] };
}
