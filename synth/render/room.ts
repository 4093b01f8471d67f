import * as THREE from 'three';
import { seededRandom } from '../../src/core/random';

/** A plain lit practice room: two walls, a floor, posters, a shelf, a door with upright edges. */
export function roomMesh(seed: number, light: number): THREE.Group {
  const group = new THREE.Group();
  const random = seededRandom(seed * 71 + 4);
  // Far from the player the room is drawn unlit: its light is painted in, which halves the cost of a frame.
  const dim = Math.min(1, 0.62 * light);
  const wallColor = new THREE.Color().setHSL(random(), 0.12 + random() * 0.12, 0.62 + random() * 0.16).multiplyScalar(dim);
  const wall = new THREE.MeshBasicMaterial({ color: wallColor, map: plaster(seed) });
  const floor = new THREE.MeshLambertMaterial({ color: 0x8a6b4a, map: boards(seed) });
  const box = (w: number, d: number, h: number, x: number, y: number, z: number, material: THREE.Material) => {
    const mesh = new THREE.Mesh(new THREE.BoxGeometry(w, d, h), material);
    mesh.position.set(x, y, z);
    mesh.receiveShadow = material === floor;
    group.add(mesh);
    return mesh;
  };
  box(7000, 40, 3200, 0, 1500, 1600, wall);
  box(40, 6000, 3200, -2600, 0, 1600, wall);
  box(40, 6000, 3200, 2800, 0, 1600, wall);
  box(7000, 7000, 40, 0, 0, -20, floor);
  const paint = (hue: number, s: number, l: number) => new THREE.MeshBasicMaterial({ color: new THREE.Color().setHSL(hue, s, l).multiplyScalar(dim) });
  for (let i = 0; i < 4; i++) {
    const w = 300 + random() * 250;
    const h = 350 + random() * 300;
    box(
      w,
      8,
      h,
      -1700 + i * 1050 + random() * 250,
      1474,
      1500 + random() * 400,
      new THREE.MeshBasicMaterial({ map: poster(seed * 10 + i), color: new THREE.Color(dim, dim, dim) }),
    );
  }
  const shelfX = 900 + random() * 900;
  for (let level = 0; level < 3; level++) {
    box(900, 260, 24, shelfX, 1350, 500 + level * 360, paint(0.08, 0.35, 0.32));
    for (let x = -400; x < 400; ) {
      const w = 25 + random() * 50;
      box(w, 180, 180 + random() * 120, shelfX + x + w / 2, 1360, 640 + level * 360, paint(random(), 0.4, 0.3 + random() * 0.35));
      x += w + 4 + (random() < 0.15 ? 80 : 0);
    }
  }
  const door = -1300 - random() * 500;
  box(900, 30, 2100, door, 1470, 1050, paint(0.07, 0.25, 0.75));
  box(70, 50, 2170, door - 480, 1465, 1085, paint(0.07, 0.1, 0.9));
  box(70, 50, 2170, door + 480, 1465, 1085, paint(0.07, 0.1, 0.9));

  const sky = new THREE.HemisphereLight(0xffffff, 0x8c7a66, 1.5 * light);
  sky.position.set(0, 0, 1);
  group.add(sky);
  const lamp = new THREE.DirectionalLight(0xfff2dd, 2 * light);
  lamp.position.set(-900 + random() * 2600, -1900, 3000 + random() * 700);
  lamp.target.position.set(0, 0, 1200);
  lamp.castShadow = true;
  lamp.shadow.mapSize.set(640, 640);
  lamp.shadow.bias = -0.003;
  lamp.shadow.normalBias = 9;
  Object.assign(lamp.shadow.camera, { left: -900, right: 900, top: 1100, bottom: -1100, near: 500, far: 7000 });
  group.add(lamp, lamp.target);
  return group;
}

function canvasTexture(width: number, height: number, draw: (c: OffscreenCanvasRenderingContext2D) => void, repeat?: readonly [number, number]): THREE.CanvasTexture {
  const canvas = new OffscreenCanvas(width, height);
  draw(canvas.getContext('2d')!);
  const texture = new THREE.CanvasTexture(canvas as unknown as HTMLCanvasElement);
  texture.colorSpace = THREE.SRGBColorSpace;
  if (repeat) {
    texture.wrapS = THREE.RepeatWrapping;
    texture.wrapT = THREE.RepeatWrapping;
    texture.repeat.set(...repeat);
  }
  return texture;
}

const plaster = (seed: number) =>
  canvasTexture(
    256,
    256,
    (c) => {
      const random = seededRandom(seed + 77);
      c.fillStyle = '#f0f0f0';
      c.fillRect(0, 0, 256, 256);
      for (let i = 0; i < 2500; i++) {
        const g = 215 + random() * 40;
        c.fillStyle = `rgba(${g},${g},${g},0.5)`;
        c.fillRect(random() * 256, random() * 256, 2 + random() * 9, 2 + random() * 9);
      }
    },
    [4, 2],
  );

const boards = (seed: number) =>
  canvasTexture(
    512,
    512,
    (c) => {
      const random = seededRandom(seed + 78);
      for (let y = 0; y < 512; y += 64) {
        c.fillStyle = `hsl(30 ${20 + random() * 15}% ${62 + random() * 22}%)`;
        c.fillRect(0, y, 512, 62);
        for (let i = 0; i < 26; i++) {
          c.fillStyle = 'rgba(60,40,20,0.12)';
          c.fillRect(random() * 512, y + random() * 60, 60 + random() * 200, 1);
        }
      }
    },
    [5, 5],
  );

const poster = (seed: number) =>
  canvasTexture(256, 320, (c) => {
    const random = seededRandom(seed + 79);
    c.fillStyle = `hsl(${random() * 360} 45% 70%)`;
    c.fillRect(0, 0, 256, 320);
    for (let i = 0; i < 6; i++) {
      c.fillStyle = `hsl(${random() * 360} 60% ${30 + random() * 40}%)`;
      c.beginPath();
      c.arc(random() * 256, random() * 200, 15 + random() * 50, 0, 7);
      c.fill();
    }
    c.fillStyle = '#222';
    for (let y = 220; y < 300; y += 12) c.fillRect(24, y, 120 + random() * 90, 5);
  });
