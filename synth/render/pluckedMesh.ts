import * as THREE from 'three';
import { seededRandom } from '../../src/core/random';

/** Half widths of a plucked instrument's body along its length: (place from the tail 0..1, half width as a share of the body's length). */
const OUTLINE: readonly (readonly [number, number])[] = [
  [0, 0],
  [0.02, 0.16],
  [0.12, 0.33],
  [0.28, 0.375],
  [0.45, 0.32],
  [0.58, 0.245],
  [0.66, 0.235],
  [0.8, 0.275],
  [0.93, 0.24],
  [0.99, 0.11],
  [1, 0],
];

/**
 * A ukulele or small guitar, to see that it is not taken for a violin: waisted without corners, a round hole, a wide
 * neck with frets, a flat head. Its frame is like the bowed instruments': x toward the head, z out of the top, mm.
 */
export function pluckedMesh(seed: number): THREE.Group {
  const random = seededRandom(seed * 43 + 2);
  const length = 240 + 160 * random();
  const deep = 55 + 35 * random();
  const group = new THREE.Group();
  const wood = new THREE.MeshPhongMaterial({ color: new THREE.Color().setHSL(0.05 + 0.06 * random(), 0.45 + 0.3 * random(), 0.28 + 0.32 * random()), shininess: 40 });
  const dark = new THREE.MeshPhongMaterial({ color: 0x2a1c14, shininess: 20 });
  const metal = new THREE.MeshPhongMaterial({ color: 0xc9c9c4, shininess: 90 });
  const side = (sign: 1 | -1) => OUTLINE.map(([at, half]) => new THREE.Vector2(length * (at - 0.55), sign * half * length));
  const curve = new THREE.SplineCurve([...side(1), ...side(-1).reverse().slice(1)]);
  const body = new THREE.Mesh(new THREE.ExtrudeGeometry(new THREE.Shape(curve.getPoints(80)), { depth: deep, bevelEnabled: false }), wood);
  body.position.z = -deep - 4;
  const box = (x: number, y: number, z: number, w: number, h: number, d: number, material: THREE.Material) => {
    const mesh = new THREE.Mesh(new THREE.BoxGeometry(w, h, d), material);
    mesh.position.set(x, y, z);
    group.add(mesh);
  };
  const hole = new THREE.Mesh(new THREE.CircleGeometry(0.12 * length, 32), dark);
  hole.position.set(0.08 * length, 0, -3.4);
  group.add(body, hole);
  box(-0.28 * length, 0, -1, 14, 0.34 * length, 6, dark);
  const neck = 0.95 * length;
  box(0.2 * length + neck / 2, 0, -3, neck, 46, 12, dark);
  for (let i = 1; i < 14; i++) box(0.2 * length + neck * (1 - 0.5 ** (i / 12) * 0.9), 0, 3.4, 1.6, 46, 1, metal);
  box(0.2 * length + neck + 45, 0, -8, 92, 62, 14, wood);
  for (const x of [20, 62]) for (const y of [-42, 42]) box(0.2 * length + neck + x, y, -8, 12, 20, 10, metal);
  for (const y of [-13.5, -4.5, 4.5, 13.5]) box(0.2 * length + neck / 2 - 0.24 * length, y, 5, neck + 0.48 * length, 1.2, 1.2, metal);
  group.matrixAutoUpdate = false;
  return group;
}
