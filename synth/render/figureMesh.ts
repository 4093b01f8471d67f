import * as THREE from 'three';
import { toOuter } from '../../src/core/geometry/pose';
import { add, addScaled, cross, mix, scale, type Vec3 } from '../../src/core/geometry/vec3';
import { seededRandom } from '../../src/core/random';
import { headScaleOf, type Joints } from '../figure/joints';
import type { InstrumentBuild } from '../instrument/build';
import type { Moment } from '../motion/performance';
import { Tube } from './tube';

const SKIN = [0xe8b99a, 0xd9a07c, 0xb87a55, 0x8d5a3c, 0xf0c8ac];
const SHIRT = [0xb2474a, 0x3f7196, 0x5c9166, 0x7d5f9b, 0xcfa945, 0x5a6272];
const HAIR = [0x3b2618, 0x1c1512, 0x8a5a2b, 0xb98a4a, 0x5a3a26];

/** The player: joined tubes for limbs, a turned torso, a head with a face, hands of five fingers. */
export class FigureMesh {
  readonly group = new THREE.Group();
  private readonly skin: THREE.MeshLambertMaterial;
  private readonly limbs: Record<
    'upperRight' | 'foreRight' | 'upperLeft' | 'foreLeft' | 'legRight' | 'legLeft' | 'torso' | 'neck' | 'palmRight' | 'palmLeft' | 'shoeRight' | 'shoeLeft',
    Tube
  >;
  private readonly fingersRight: Tube[];
  private readonly fingersLeft: Tube[];
  private readonly head = new THREE.Group();

  constructor(
    private readonly stature: number,
    seed: number,
  ) {
    const random = seededRandom(seed * 211 + 9);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
    this.skin = new THREE.MeshLambertMaterial({ color: pick(SKIN) });
    const shirt = new THREE.MeshLambertMaterial({ color: pick(SHIRT), map: cloth(seed) });
    const trousers = new THREE.MeshLambertMaterial({ color: 0x4a5878, map: cloth(seed + 1) });
    const leather = new THREE.MeshLambertMaterial({ color: 0x2a2320 });
    this.limbs = {
      torso: new Tube(shirt, 26, 28, 0.66),
      neck: new Tube(this.skin, 8, 16),
      upperRight: new Tube(shirt, 16, 16),
      foreRight: new Tube(this.skin, 22, 16),
      upperLeft: new Tube(shirt, 16, 16),
      foreLeft: new Tube(this.skin, 22, 16),
      legRight: new Tube(trousers, 20, 16),
      legLeft: new Tube(trousers, 20, 16),
      palmRight: new Tube(this.skin, 10, 14, 0.5),
      palmLeft: new Tube(this.skin, 10, 14, 0.5),
      shoeRight: new Tube(leather, 8, 12, 0.8),
      shoeLeft: new Tube(leather, 8, 12, 0.8),
    };
    this.fingersRight = Array.from({ length: 5 }, () => new Tube(this.skin, 12, 10));
    this.fingersLeft = Array.from({ length: 5 }, () => new Tube(this.skin, 12, 10));
    for (const tube of [...Object.values(this.limbs), ...this.fingersRight, ...this.fingersLeft]) this.group.add(tube.mesh);
    for (const tube of this.fingersLeft) tube.mesh.castShadow = false;
    this.buildHead(pick(HAIR), random);
    this.group.add(this.head);
  }

  private buildHead(hairColor: number, random: () => number): void {
    const s = headScaleOf(this.stature);
    const part = (geometry: THREE.BufferGeometry, material: THREE.Material, x: number, y: number, z: number, sx = 1, sy = 1, sz = 1) => {
      const mesh = new THREE.Mesh(geometry, material);
      mesh.position.set(x * s, y * s, z * s);
      mesh.scale.set(sx, sy, sz);
      this.head.add(mesh);
      return mesh;
    };
    const ball = (r: number, w = 24, h = 18) => new THREE.SphereGeometry(r * s, w, h);
    const white = new THREE.MeshLambertMaterial({ color: 0xf4f1ea });
    const iris = new THREE.MeshLambertMaterial({ color: 0x3a2a1c });
    const lip = new THREE.MeshLambertMaterial({ color: 0xb5645a });
    const hair = new THREE.MeshLambertMaterial({ color: hairColor, map: cloth(5) });
    // Frame of the head: x to its right, y forward, z to the crown.
    part(ball(78, 40, 30), this.skin, 0, 0, 24, 0.94, 1.12, 1.16);
    part(ball(60, 34, 26), this.skin, 0, 30, -42, 0.92, 0.95, 1.02);
    part(ball(30, 20, 16), this.skin, 0, 58, -84, 0.95, 0.8, 0.7);
    // Eyes with lids and brows, lips, ears.
    for (const side of [-1, 1]) {
      part(ball(13, 18, 14), white, side * 30, 76, 14, 1.05, 0.75, 0.72);
      part(ball(6.8, 14, 10), iris, side * 29, 83.5, 13, 1, 0.5, 1);
      part(ball(14.5, 18, 10), this.skin, side * 30, 76, 21, 1.1, 0.8, 0.5);
      part(ball(14, 14, 8), hair, side * 30, 81, 35, 1.35, 0.5, 0.3);
      part(ball(17, 14, 12), this.skin, side * 73, -6, 2, 0.35, 0.8, 1.3);
    }
    part(ball(13, 16, 12), this.skin, 0, 96, -20, 0.9, 0.95, 0.9);
    part(ball(10, 14, 10), this.skin, 0, 86, 2, 0.65, 0.85, 2.4);
    part(ball(16, 18, 10), lip, 0, 84, -48, 1.35, 0.5, 0.26);
    part(ball(13, 18, 10), lip, 0, 83, -55, 1.3, 0.5, 0.36);
    part(ball(84, 36, 26), hair, 0, -14, 40, 0.98, 1.08, 1.06);
    part(ball(70, 24, 18), hair, 0, -36, -4, 1.02, 0.8, 1.1);
    if (random() < 0.5) part(ball(46, 20, 16), hair, 0, -92, 10, 0.9, 0.8, 1.4);
  }

  update(moment: Moment, j: Joints, build: InstrumentBuild): void {
    const H = this.stature;
    const k = H / 1700;
    const L = this.limbs;
    const chest = mix(j.shoulderLeft, j.shoulderRight, 0.5);
    const pelvis = mix(j.hipLeft, j.hipRight, 0.5);
    const spine = (t: number, y = 0): Vec3 => add(mix(pelvis, chest, t), [0, y * k, 0]);
    L.torso.set(
      [add(pelvis, [0, 0, -40 * k]), spine(0.1), spine(0.45, 4), spine(0.8, 0), add(chest, [0, 4, 30 * k]), add(chest, [0, 6, 74 * k])],
      [188, 182, 148, 165, 138, 58].map((r) => r * k),
    );
    L.neck.set([add(chest, [0, 6, 20 * k]), add(chest, [4, -4, 80 * k]), addScaled(j.head, j.crown, -50 * headScaleOf(H))], [62 * k, 54 * k, 56 * k]);
    const half = mix(j.shoulderRight, j.elbowRight, 0.62);
    L.upperRight.set([add(j.shoulderRight, [22 * k, 0, 16 * k]), j.shoulderRight, half], [54 * k, 60 * k, 49 * k]);
    L.foreRight.set(
      [mix(j.shoulderRight, j.elbowRight, 0.45), mix(j.shoulderRight, j.elbowRight, 0.8), j.elbowRight, mix(j.elbowRight, j.wristRight, 0.3), j.wristRight],
      [43, 42, 41, 42, 26].map((r) => r * k),
    );
    const halfLeft = mix(j.shoulderLeft, j.elbowLeft, 0.62);
    L.upperLeft.set([add(j.shoulderLeft, [-22 * k, 0, 16 * k]), j.shoulderLeft, halfLeft], [54 * k, 60 * k, 49 * k]);
    L.foreLeft.set(
      [mix(j.shoulderLeft, j.elbowLeft, 0.45), mix(j.shoulderLeft, j.elbowLeft, 0.8), j.elbowLeft, mix(j.elbowLeft, j.wristLeft, 0.3), j.wristLeft],
      [43, 42, 41, 42, 26].map((r) => r * k),
    );
    L.legRight.set(
      [add(j.hipRight, [0, 0, 40 * k]), j.hipRight, j.kneeRight, j.ankleRight],
      [95, 92, 62, 48].map((r) => r * k),
    );
    L.legLeft.set(
      [add(j.hipLeft, [0, 0, 40 * k]), j.hipLeft, j.kneeLeft, j.ankleLeft],
      [95, 92, 62, 48].map((r) => r * k),
    );
    for (const [shoe, ankle, out] of [
      [L.shoeRight, j.ankleRight, -1],
      [L.shoeLeft, j.ankleLeft, 1],
    ] as const) {
      shoe.set([add(ankle, [0, 40 * k, -30 * k]), add(ankle, [0, -20 * k, -26 * k]), add(ankle, [out * 40 * k, -150 * k, -44 * k])], [44 * k, 50 * k, 34 * k]);
    }

    // Bow hand: fingers over the stick, thumb beneath.
    const { along, back, off } = j.bowAxes;
    const inBow = (x: number, y: number, z: number): Vec3 => add(addScaled(addScaled(moment.frog, along, x * k), back, y * k), scale(off, z * k));
    const bend = 1 - moment.bow.position;
    const knuckles = [46, 24, 2, -18].map((x) => inBow(x, 44, 44 + 4 * bend));
    L.palmRight.set([j.wristRight, inBow(8, 74, 48), inBow(13, 46, 44)], [27 * k, 40 * k, 37 * k]);
    knuckles.forEach((knuckle, i) => {
      const x = [62, 30, 6, -22][i]!;
      const reach = i === 3 ? 24 : 8;
      this.fingersRight[i]!.set(
        [knuckle, inBow(x, 14, 52 - 6 * i * 0.3), inBow(x - 2, -12, 36), inBow(x - 4, -11, reach)],
        [11, 10, 9, 7.5].map((r) => r * k * (i === 3 ? 0.85 : 1)),
      );
    });
    this.fingersRight[4]!.set(
      [inBow(12, 74, 26), inBow(26, 46, 4), inBow(22, 22, 4), inBow(16, 4, 11)],
      [13, 12, 10, 8.5].map((r) => r * k),
    );

    // Fret hand: round the neck below the nut.
    const nut = build.model.stringLength;
    const inBody = (x: number, y: number, z: number): Vec3 => toOuter(moment.instrument, [nut - x * k, y * k, z * k]);
    L.palmLeft.set([j.wristLeft, inBody(62, -40, -36), inBody(66, -26, -12)], [27 * k, 40 * k, 34 * k]);
    [44, 66, 88, 108].forEach((x, i) => {
      this.fingersLeft[i]!.set(
        [inBody(x - 4, -27, -14), inBody(x + 2, -34, 14), inBody(x + 6, -16, 28), inBody(x + 8, 0, 14)],
        [11, 10, 9, 7.5].map((r) => r * k * (i === 3 ? 0.85 : 1)),
      );
    });
    this.fingersLeft[4]!.set(
      [inBody(58, -26, -40), inBody(52, 4, -32), inBody(46, 22, -14), inBody(42, 24, 4)],
      [14, 13, 11, 9].map((r) => r * k),
    );

    const right = cross(j.face, j.crown);
    const matrix = new THREE.Matrix4().makeBasis(new THREE.Vector3(...right), new THREE.Vector3(...j.face), new THREE.Vector3(...j.crown));
    this.head.quaternion.setFromRotationMatrix(matrix);
    this.head.position.set(...j.head);
  }
}

/** Faint weave, so that cloth and hair are not one flat colour. */
function cloth(seed: number): THREE.CanvasTexture {
  const canvas = new OffscreenCanvas(128, 128);
  const c = canvas.getContext('2d')!;
  const random = seededRandom(seed * 3 + 1);
  c.fillStyle = '#e6e6e6';
  c.fillRect(0, 0, 128, 128);
  for (let i = 0; i < 1800; i++) {
    const g = 200 + Math.floor(random() * 55);
    c.fillStyle = `rgba(${g},${g},${g},0.5)`;
    c.fillRect(random() * 128, random() * 128, 1 + random() * 3, 1 + random() * 14);
  }
  const texture = new THREE.CanvasTexture(canvas as unknown as HTMLCanvasElement);
  texture.wrapS = THREE.RepeatWrapping;
  texture.wrapT = THREE.RepeatWrapping;
  texture.repeat.set(3, 4);
  texture.colorSpace = THREE.SRGBColorSpace;
  return texture;
}
