import * as THREE from 'three';
import { FINGERS } from '../../src/core/body/hand';
import { add, addScaled, cross, mix, normalize, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { armField, bodyBones, bottomField, jerseyField, legsField, shoesField } from '../figure/body';
import { growthAt } from '../figure/growth';
import { handBones, handField, handScale, type Palm, REST_PALM, restHand } from '../figure/hand';
import { EYE, EYE_RADIUS, HEAD_HEIGHT, hairField, headField, mouthHeight } from '../figure/head';
import type { Joints } from '../figure/joints';
import { type Looks, looksOf, PATTERNS } from '../figure/looks';
import { type Field, join } from '../surface/field';
import type { Bone } from '../surface/skeleton';
import { meshField, type Surface } from '../surface/surfaceNets';
import { CLOTH_PAINT, EYE_PAINT, FACE_PAINT, HAIR_PAINT, HAND_PAINT, painted, SHOE_PAINT, SKIN_PAINT } from './paint';
import { SkinnedPart } from './skinnedPart';

/** The player: one skin a part over a skeleton that follows the joints. */
export class PersonMesh {
  readonly group = new THREE.Group();
  private readonly head: SkinnedPart;
  private readonly hair: SkinnedPart;
  private readonly body: SkinnedPart[] = [];
  private readonly arms: { part: SkinnedPart; side: 'Right' | 'Left' }[] = [];
  private readonly eyes: THREE.Group[] = [];
  private readonly lids: THREE.Mesh[] = [];
  private readonly glasses: THREE.Group | undefined;
  private readonly headSize: number;

  constructor(
    private readonly stature: number,
    rest: Joints,
    seed: number,
  ) {
    const looks = looksOf(stature, seed);
    const { child, face } = looks;
    this.headSize = growthAt(stature).headHeight / HEAD_HEIGHT;
    const skinOf = (code: string, uniforms = {}) => painted(new THREE.MeshPhongMaterial({ color: looks.skin, shininess: 14, specular: 0x2a2320 }), code, uniforms, 0.16);

    // Head.
    const blush = new THREE.Color(looks.skin).lerp(new THREE.Color(0xa33d3a), 0.5);
    const hairColor = new THREE.Color(looks.hair);
    const headSurface = meshField(headField(face), { min: [-95, -115, -152], max: [95, 115, 125] }, 3);
    this.head = new SkinnedPart(
      headSurface,
      headBones(HEAD_REST),
      skinOf(FACE_PAINT, {
        lips: { value: blush },
        hairColor: { value: hairColor },
        mouth: { value: mouthHeight(face) },
        browThick: { value: 3.4 + 0.9 * face.brow + 0.8 * (1 - child) },
        eyeWide: { value: 13.5 + 1.2 * child },
        eyeHigh: { value: 5.4 + 1.5 * child },
        freckles: { value: looks.freckles ? 0.6 : 0 },
      }),
    );
    const curly = looks.hairdo === 'curls';
    this.hair = new SkinnedPart(
      meshField(hairField(looks.hairdo, face, seed), { min: [-120, -175, -130], max: [120, 110, 150] }, 3.5),
      headBones(HEAD_REST),
      painted(new THREE.MeshPhongMaterial({ color: looks.hair, shininess: 22, specular: curly ? 0x111111 : 0x3a332c }), HAIR_PAINT, { curl: { value: curly ? 1 : 0 } }),
    );
    this.group.add(this.head.mesh, this.hair.mesh);
    this.makeEyes(looks);
    if (looks.glasses) this.glasses = this.makeGlasses();

    // Clothes and limbs, made in the rest posture.
    const bones = bodyBones(rest, stature);
    const bodyPart = (field: Field, box: readonly Vec3[], margin: number, cell: number, material: THREE.Material) => {
      const part = new SkinnedPart(meshed(field, box, margin, cell), bones, material);
      this.body.push(part);
      this.group.add(part.mesh);
    };
    const k = stature / 1700;
    const chest = addScaled(mix(rest.shoulderLeft, rest.shoulderRight, 0.5), [0, 0, 1], -0.09 * stature);
    const cloth = (color: number, second: number, pattern: Looks['jersey']['pattern']) =>
      painted(new THREE.MeshLambertMaterial({ color }), CLOTH_PAINT, {
        chest: { value: new THREE.Vector3(...chest) },
        second: { value: new THREE.Color(second) },
        pattern: { value: PATTERNS.indexOf(pattern) },
      });
    const { shoulderLeft, shoulderRight, elbowLeft, elbowRight, wristLeft, wristRight, hipLeft, hipRight } = rest;
    bodyPart(
      jerseyField(rest, stature, child, looks.wear, seed),
      looks.wear.sleeves === 'long'
        ? [shoulderLeft, shoulderRight, elbowLeft, elbowRight, wristLeft, wristRight, hipLeft, hipRight]
        : [shoulderLeft, shoulderRight, elbowLeft, elbowRight, hipLeft, hipRight],
      150 * k,
      5.8 * Math.max(0.75, k),
      cloth(looks.jersey.color, looks.jersey.second, looks.jersey.pattern),
    );
    bodyPart(
      bottomField(rest, stature, child, looks.wear, seed + 7),
      [hipLeft, hipRight, rest.kneeLeft, rest.kneeRight, rest.ankleLeft, rest.ankleRight],
      160 * k,
      8.5 * Math.max(0.75, k),
      cloth(looks.bottom, looks.jersey.second, looks.wear.bottom === 'skirt' && looks.jersey.pattern === 'plain' ? 'checks' : 'plain'),
    );
    if (looks.wear.bottom !== 'trousers')
      bodyPart(
        legsField(rest, stature, child),
        [rest.kneeLeft, rest.kneeRight, rest.ankleLeft, rest.ankleRight, mix(hipLeft, rest.kneeLeft, 0.4), mix(hipRight, rest.kneeRight, 0.4)],
        90 * k,
        7,
        skinOf(SKIN_PAINT),
      );
    bodyPart(
      shoesField(rest, stature),
      [rest.ankleLeft, rest.ankleRight, rest.toeLeft, rest.toeRight],
      90 * k,
      5,
      painted(new THREE.MeshPhongMaterial({ color: looks.shoes, shininess: 30 }), SHOE_PAINT),
    );

    // Arms with their hands in one skin, made straight but for the elbow.
    const s = handScale(stature);
    for (const side of ['Right', 'Left'] as const) {
      const sign = side === 'Right' ? 1 : -1;
      const joints = restHand(s).map((p): Vec3 => [p[0], sign * p[1], p[2]]);
      const palm = restPalm(sign);
      const arm = armRest(stature);
      const mirroredHand = handField(restHand(s), s);
      const hand: Field = (x, y, z) => mirroredHand(x, sign * y, z);
      const field = join(armField(arm.shoulder, arm.elbow, arm.wrist, stature, child), hand, 16 * s);
      const surface = meshed(field, [arm.shoulder, arm.elbow, ...joints], 44 * k, 3.1 * Math.max(0.75, s));
      const part = new SkinnedPart(surface, armBones(arm.shoulder, arm.elbow, joints, palm, stature), skinOf(HAND_PAINT, handUniforms(joints, palm, s)));
      this.arms.push({ part, side });
      this.group.add(part.mesh);
    }
  }

  private makeEyes(looks: Looks): void {
    const lid = new THREE.SphereGeometry(EYE_RADIUS + 1.5, 24, 12, 0, Math.PI * 2, 0, Math.PI / 2);
    for (const side of [-1, 1]) {
      const geometry = new THREE.SphereGeometry(EYE_RADIUS, 28, 20);
      const place = geometry.getAttribute('position');
      geometry.setAttribute(
        'rest',
        new THREE.BufferAttribute(
          Float32Array.from(place.array, (v) => v / EYE_RADIUS),
          3,
        ),
      );
      geometry.setAttribute('openness', new THREE.BufferAttribute(new Float32Array(place.count).fill(1), 1));
      const ball = new THREE.Mesh(
        geometry,
        painted(new THREE.MeshPhongMaterial({ color: 0xffffff, shininess: 70, specular: 0x333333 }), EYE_PAINT, { iris: { value: new THREE.Color(looks.iris) } }),
      );
      const eye = new THREE.Group();
      eye.matrixAutoUpdate = false;
      const cover = new THREE.Mesh(lid, new THREE.MeshPhongMaterial({ color: new THREE.Color(looks.skin).multiplyScalar(0.9), side: THREE.DoubleSide, shininess: 10 }));
      eye.add(ball, cover);
      eye.userData.side = side;
      this.eyes.push(eye);
      this.lids.push(cover);
      this.group.add(eye);
    }
  }

  private makeGlasses(): THREE.Group {
    const glasses = new THREE.Group();
    glasses.matrixAutoUpdate = false;
    const frame = new THREE.MeshPhongMaterial({ color: 0x24211f, shininess: 60, specular: 0x666666 });
    for (const side of [-1, 1]) {
      const rim = new THREE.Mesh(new THREE.TorusGeometry(21, 1.5, 8, 36), frame);
      rim.rotation.x = Math.PI / 2;
      rim.scale.set(1.08, 0.86, 1);
      rim.position.set(side * 32, 90, 6);
      const arm = new THREE.Mesh(new THREE.CylinderGeometry(1.3, 1.3, 102), frame);
      arm.position.set(side * 67, 40, 12);
      arm.rotation.z = side * -0.14;
      glasses.add(rim, arm);
    }
    const bridge = new THREE.Mesh(new THREE.CylinderGeometry(1.4, 1.4, 22), frame);
    bridge.rotation.z = Math.PI / 2;
    bridge.position.set(0, 91, 10);
    glasses.add(bridge);
    this.group.add(glasses);
    return glasses;
  }

  update(j: Joints): void {
    this.moveHead(j);
    const bones = bodyBones(j, this.stature);
    for (const part of this.body) part.move(bones);
    for (const { part, side } of this.arms) {
      const hand = j[`hand${side}`];
      part.move(armBones(j[`shoulder${side}`], j[`elbow${side}`], hand.joints, hand.palm, this.stature));
    }
  }

  private moveHead(j: Joints): void {
    const right = cross(j.face, j.crown);
    const place = (p: Vec3): Vec3 => add(j.head, addScaled(addScaled(scale(right, p[0] * this.headSize), j.face, p[1] * this.headSize), j.crown, p[2] * this.headSize));
    const neck = mix(j.shoulderLeft, j.shoulderRight, 0.5);
    const head: Bone = { from: place(HEAD_REST[0]!.from), to: place(HEAD_REST[0]!.to), across: right, girth: 1 };
    const foot = addScaled(neck, [0, 0, 1], 0.004 * this.stature);
    const bones = [head, { from: foot, to: addScaled(foot, normalize(subtract(place([0, -22, -60]), foot)), 60 * this.headSize), across: right, girth: 1 }];
    this.head.move(bones, this.headSize);
    this.hair.move([bones[0]!, bones[0]!], this.headSize);
    const basis = new THREE.Matrix4().makeBasis(new THREE.Vector3(...right), new THREE.Vector3(...j.face), new THREE.Vector3(...j.crown));
    const size = new THREE.Vector3(this.headSize, this.headSize, this.headSize);
    for (const [i, eye] of this.eyes.entries()) {
      const at = place([eye.userData.side * EYE[0], EYE[1], EYE[2]]);
      // Eyes look at what the player watches, as far as eyes turn.
      const to = normalize(subtract(j.gaze, at));
      const look = normalize(addScaled(to, j.face, 0.9));
      const x = normalize(cross(look, j.crown));
      const z = cross(x, look);
      eye.matrix
        .makeBasis(new THREE.Vector3(...x), new THREE.Vector3(...look), new THREE.Vector3(...z))
        .scale(size)
        .setPosition(...(at as [number, number, number]));
      // The lid hangs behind the opening and comes down to blink.
      this.lids[i]!.rotation.x = (120 - 65 * j.blink) * (Math.PI / 180);
    }
    this.glasses?.matrix
      .copy(basis)
      .scale(size)
      .setPosition(...(j.head as [number, number, number]));
  }
}

/** Bones of the head and neck in the head's own frame. */
const HEAD_REST: readonly Bone[] = [
  { from: [0, 0, 10], to: [0, 0, 70], across: [1, 0, 0], girth: 46 },
  { from: [0, -34, -150], to: [0, -30, -92], across: [1, 0, 0], girth: 30 },
];
const headBones = (bones: readonly Bone[]): Bone[] => [...bones];

const restPalm = (sign: number): Palm => ({ ...REST_PALM, radial: [0, sign, 0] });

/** Straight wrist, elbow at a right angle: the posture in which the arm's skin is made. */
function armRest(stature: number): { shoulder: Vec3; elbow: Vec3; wrist: Vec3 } {
  const elbow: Vec3 = [-0.148 * stature, 0, 0];
  return { shoulder: [-0.148 * stature - 0.02 * stature, 0, 0.179 * stature], elbow, wrist: [0, 0, 0] };
}

/** Upper arm, forearm in two halves that share its twist, then the hand. */
function armBones(shoulder: Vec3, elbow: Vec3, hand: readonly Vec3[], palm: Palm, stature: number): Bone[] {
  const k = stature / 1700;
  const wrist = hand[0]!;
  const hinge = normalize(cross(subtract(elbow, shoulder), subtract(wrist, elbow)));
  const middle = mix(elbow, wrist, 0.5);
  const sided = scale(palm.radial, Math.sign(palm.radial[0] * hinge[0] + palm.radial[1] * hinge[1] + palm.radial[2] * hinge[2]) || 1);
  return [
    { from: shoulder, to: elbow, across: hinge, girth: 44 * k },
    { from: elbow, to: middle, across: normalize(add(scale(hinge, 2), sided)), girth: 36 * k },
    { from: middle, to: wrist, across: normalize(add(hinge, scale(sided, 2))), girth: 28 * k },
    ...handBones(hand, palm, handScale(stature)),
  ];
}

function handUniforms(j: readonly Vec3[], palm: Palm, s: number) {
  const vectors = (list: readonly Vec3[]) => ({ value: list.map((p) => new THREE.Vector3(...p)) });
  const nails = [4, 8, 12, 16, 20].map((tip, i) => {
    const along = normalize(subtract(j[tip]!, j[tip - 1]!));
    const usual = i === 0 ? normalize(add(scale(palm.radial, 0.55), scale(palm.dorsal, 0.6))) : palm.dorsal;
    const out = normalize(addScaled(usual, along, -(usual[0] * along[0] + usual[1] * along[1] + usual[2] * along[2])));
    return { at: addScaled(addScaled(j[tip]!, along, -6 * s), out, 6.4 * s), along, out };
  });
  return {
    nailAt: vectors(nails.map((n) => n.at)),
    nailAlong: vectors(nails.map((n) => n.along)),
    nailOut: vectors(nails.map((n) => n.out)),
    knuckle: vectors(FINGERS.flatMap((_, i) => [addScaled(j[5 + 4 * i]!, palm.dorsal, 9 * s), addScaled(j[6 + 4 * i]!, palm.dorsal, 8 * s)])),
    handSize: { value: s },
  };
}

/** Meshes a field about some points with a margin. */
function meshed(field: Field, points: readonly Vec3[], margin: number, cell: number): Surface {
  const bound = (pick: (...v: number[]) => number, by: number) => [0, 1, 2].map((a) => pick(...points.map((p) => p[a]!)) + by) as unknown as Vec3;
  return meshField(field, { min: bound(Math.min, -margin), max: bound(Math.max, margin) }, cell);
}
