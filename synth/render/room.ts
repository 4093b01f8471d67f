import * as THREE from 'three';
import { seededRandom } from '../../src/core/random';

/** What stands about in a room, chosen by seed. */
const PIECES = ['sofa', 'piano', 'desk', 'nothing'] as const;

/**
 * A practice room at home or in a school: walls with their light painted in, floor, window light, shelf, posters,
 * a plant and a piece of furniture. `light` is 1 by day; `backLight` 0..1 brightens what is behind the player and
 * leaves the player in shade.
 */
export function roomMesh(seed: number, light: number, backLight = 0): THREE.Group {
  const group = new THREE.Group();
  const random = seededRandom(seed * 71 + 4);
  // Far from the player the room is drawn unlit: its light is painted in, which halves the cost of a frame.
  const dim = 0.66 * light * (1 + 0.9 * backLight);
  const tone = new THREE.Color().setHSL(random(), 0.1 + random() * 0.14, 0.66 + random() * 0.14);
  const basic = (map: THREE.Texture) => new THREE.MeshBasicMaterial({ map, color: new THREE.Color(dim, dim, dim) });
  const lit = (color: THREE.ColorRepresentation, map?: THREE.Texture) => new THREE.MeshLambertMaterial(map ? { color, map } : { color });
  const box = (w: number, d: number, h: number, x: number, y: number, z: number, material: THREE.Material, soft = 0) => {
    const mesh = new THREE.Mesh(soft > 0 ? roundedBox(w, d, h, soft) : new THREE.BoxGeometry(w, d, h), material);
    mesh.position.set(x, y, z);
    mesh.receiveShadow = material instanceof THREE.MeshLambertMaterial;
    group.add(mesh);
    return mesh;
  };
  const lampX = -900 + random() * 2600;
  box(7000, 40, 3200, 0, 1500, 1600, basic(wallTexture(seed, tone, (lampX + 3500) / 7000)));
  box(40, 6000, 3200, -2600, 0, 1600, basic(wallTexture(seed + 1, tone.clone().multiplyScalar(0.86), 0.6)));
  box(40, 6000, 3200, 2800, 0, 1600, basic(wallTexture(seed + 2, tone.clone().multiplyScalar(0.93), 0.4)));
  box(7000, 7000, 40, 0, 0, -20, lit(new THREE.Color().setHSL(0.07 + 0.03 * random(), 0.18 + random() * 0.2, 0.42 + random() * 0.2), boards(seed)));
  const skirting = lit(0xdad6cc);
  box(7000, 22, 110, 0, 1470, 55, skirting);
  box(22, 6000, 110, -2570, 0, 55, skirting);
  box(22, 6000, 110, 2770, 0, 55, skirting);
  if (random() < 0.6) box(1500 + 900 * random(), 1200 + 600 * random(), 12, 0, 100, 6, lit(0xffffff, rug(seed)));

  for (let i = 0; i < 3; i++) {
    const w = 280 + random() * 260;
    const h = 340 + random() * 260;
    const x = -1500 + i * 1150 + random() * 420;
    const z = 1520 + random() * 320;
    box(w + 36, 12, h + 36, x, 1474, z, lit(random() < 0.5 ? 0x3b2d22 : 0xe6e1d6));
    box(w, 6, h, x, 1466, z, basic(poster(seed * 10 + i)));
  }
  const shelfX = (random() < 0.5 ? 1 : -1) * (1150 + random() * 500);
  const wood = lit(new THREE.Color().setHSL(0.075, 0.4, 0.22 + random() * 0.2));
  box(40, 300, 1900, shelfX - 480, 1330, 950, wood);
  box(40, 300, 1900, shelfX + 480, 1330, 950, wood);
  for (let level = 0; level < 5; level++) {
    box(920, 290, 28, shelfX, 1330, 90 + level * 400, wood);
    for (let x = -440; x < 420; ) {
      const w = 22 + random() * 42;
      const h = 190 + random() * 130;
      box(w, 200, h, shelfX + x + w / 2, 1350, 104 + level * 400 + h / 2, lit(new THREE.Color().setHSL(random(), 0.2 + 0.3 * random(), 0.2 + random() * 0.4)));
      x += w + 2 + (random() < 0.12 ? 90 : 0);
    }
  }
  const doorX = -Math.sign(shelfX) * (1500 + random() * 400);
  const white = lit(0xd9d5cb);
  box(880, 30, 2060, doorX, 1472, 1030, white);
  for (const side of [-1, 1]) box(80, 50, 2130, doorX + side * 480, 1462, 1065, white);
  box(1040, 50, 80, doorX, 1462, 2120, white);
  for (const z of [600, 1480]) box(620, 20, 680, doorX, 1458, z, lit(0xcbc7bc));

  const piece = PIECES[Math.floor(random() * PIECES.length)]!;
  const cloth = lit(new THREE.Color().setHSL(random(), 0.2 + 0.25 * random(), 0.28 + 0.25 * random()));
  const pieceX = -Math.sign(shelfX) * (200 + random() * 500);
  if (piece === 'sofa') {
    box(1900, 420, 240, pieceX, 1120, 300, cloth, 60);
    box(1900, 200, 420, pieceX, 1330, 620, cloth, 60);
    for (const side of [-1, 1]) box(220, 600, 420, pieceX + side * 1020, 1140, 380, cloth, 70);
    for (let i = 0; i < 2; i++) box(430, 150, 400, pieceX - 500 + i * 900 + random() * 200, 1190, 590, lit(new THREE.Color().setHSL(random(), 0.4, 0.45)), 70);
  } else if (piece === 'piano') {
    const black = lit(0x2b1b14);
    box(1480, 420, 1180, pieceX, 1250, 590, black, 12);
    box(1460, 330, 90, pieceX, 960, 690, black, 8);
    box(1240, 150, 24, pieceX, 900, 745, lit(0xe9e5da));
    for (let i = 0; i < 36; i++) if (![2, 6].includes(i % 7)) box(15, 92, 16, pieceX - 600 + i * 34, 930, 762, lit(0x14110f));
  } else if (piece === 'desk') {
    box(1400, 620, 36, pieceX, 1150, 740, wood);
    for (const sx of [-1, 1]) for (const sy of [-1, 1]) box(56, 56, 720, pieceX + sx * 640, 1150 + sy * 260, 360, wood);
    box(330, 250, 20, pieceX - 300, 1150, 770, lit(0x3f4750));
    box(180, 180, 250, pieceX + 380, 1200, 880, lit(0xb9a27c), 60);
  }
  if (random() < 0.65) plant(group, -Math.sign(shelfX) * (random() < 0.5 ? 2100 : 950), 1180, random);
  if (random() < 0.35) musicStand(group, -760 - random() * 300, 380 + random() * 300);

  const sky = new THREE.HemisphereLight(0xf4f7ff, 0x9c8468, 1.55 * light * (1 - 0.35 * backLight));
  sky.position.set(0, 0, 1);
  group.add(sky);
  const lamp = new THREE.DirectionalLight(0xfff0da, 2 * light * (1 - 0.75 * backLight));
  lamp.position.set(lampX, -1900, 3000 + random() * 700);
  lamp.target.position.set(0, 0, 1200);
  lamp.castShadow = true;
  lamp.shadow.mapSize.set(1024, 1024);
  lamp.shadow.radius = 3;
  lamp.shadow.bias = -0.002;
  lamp.shadow.normalBias = 5;
  Object.assign(lamp.shadow.camera, { left: -900, right: 900, top: 1100, bottom: -1100, near: 500, far: 7000 });
  group.add(lamp, lamp.target);
  return group;
}

/** A box with rounded edges along its upright sides and top, for soft things. */
function roundedBox(w: number, d: number, h: number, r: number): THREE.BufferGeometry {
  const shape = new THREE.Shape();
  const [x, y] = [w / 2 - r, d / 2 - r];
  shape
    .absarc(x, y, r, 0, Math.PI / 2)
    .absarc(-x, y, r, Math.PI / 2, Math.PI)
    .absarc(-x, -y, r, Math.PI, 1.5 * Math.PI)
    .absarc(x, -y, r, 1.5 * Math.PI, 2 * Math.PI);
  const bevel = Math.min(r, h / 3);
  const geometry = new THREE.ExtrudeGeometry(shape, {
    depth: h - 2 * bevel,
    bevelEnabled: true,
    bevelSize: bevel * 0.6,
    bevelThickness: bevel,
    bevelSegments: 3,
    curveSegments: 6,
  });
  geometry.translate(0, 0, -(h - 2 * bevel) / 2);
  return geometry;
}

/** A stool whose seat's middle lies at a place. */
export function stoolMesh(seat: readonly [number, number, number]): THREE.Group {
  const group = new THREE.Group();
  const cover = new THREE.Mesh(roundedBox(400, 340, 60, 26), new THREE.MeshLambertMaterial({ color: 0x2c2a2e }));
  cover.position.set(seat[0], seat[1], seat[2] - 30);
  cover.castShadow = true;
  group.add(cover);
  const wood = new THREE.MeshLambertMaterial({ color: 0x6a4526 });
  for (const x of [-1, 1]) {
    for (const y of [-1, 1]) {
      const leg = new THREE.Mesh(new THREE.BoxGeometry(40, 40, seat[2] - 60), wood);
      leg.position.set(seat[0] + x * 165, seat[1] + y * 135, (seat[2] - 60) / 2);
      leg.castShadow = true;
      group.add(leg);
    }
  }
  return group;
}

function plant(group: THREE.Group, x: number, y: number, random: () => number): void {
  const pot = new THREE.Mesh(new THREE.CylinderGeometry(130, 100, 240, 24), new THREE.MeshLambertMaterial({ color: 0xa8623f }));
  pot.rotation.x = Math.PI / 2;
  pot.position.set(x, y, 120);
  group.add(pot);
  const leaf = new THREE.PlaneGeometry(110, 620, 2, 8);
  const place = leaf.getAttribute('position');
  for (let i = 0; i < place.count; i++) {
    const t = place.getY(i) / 620 + 0.5;
    place.setXYZ(i, place.getX(i) * Math.sin(Math.PI * Math.min(1, 0.12 + 0.88 * t)) * 1.1, 260 * t * t, 640 * t - 150 * t * t * t);
  }
  leaf.computeVertexNormals();
  for (let i = 0; i < 15; i++) {
    const mesh = new THREE.Mesh(
      leaf,
      new THREE.MeshLambertMaterial({ color: new THREE.Color().setHSL(0.27 + 0.08 * random(), 0.4, 0.18 + 0.16 * random()), side: THREE.DoubleSide }),
    );
    mesh.position.set(x, y, 220);
    mesh.rotation.z = random() * 2 * Math.PI;
    mesh.scale.setScalar(0.7 + 0.6 * random());
    group.add(mesh);
  }
}

function musicStand(group: THREE.Group, x: number, y: number): void {
  const metal = new THREE.MeshLambertMaterial({ color: 0x2c2f33 });
  const pole = new THREE.Mesh(new THREE.CylinderGeometry(10, 10, 1050, 10), metal);
  pole.rotation.x = Math.PI / 2;
  pole.position.set(x, y, 560);
  const desk = new THREE.Mesh(new THREE.BoxGeometry(480, 12, 330), metal);
  desk.position.set(x, y - 30, 1200);
  desk.rotation.x = -0.35;
  const paper = new THREE.Mesh(new THREE.BoxGeometry(420, 4, 290), new THREE.MeshLambertMaterial({ color: 0xf3efe2 }));
  paper.position.set(x, y - 44, 1204);
  paper.rotation.x = -0.35;
  group.add(pole, desk, paper);
  for (let i = 0; i < 3; i++) {
    const foot = new THREE.Mesh(new THREE.CylinderGeometry(8, 8, 420, 8), metal);
    const a = (i * 2 * Math.PI) / 3;
    foot.position.set(x + 150 * Math.cos(a), y + 150 * Math.sin(a), 100);
    foot.rotation.set(Math.PI / 2, 0, a);
    foot.rotateX(0.9);
    group.add(foot);
  }
}

function canvasTexture(width: number, height: number, draw: (c: OffscreenCanvasRenderingContext2D) => void, repeat?: readonly [number, number]): THREE.CanvasTexture {
  const canvas = new OffscreenCanvas(width, height);
  draw(canvas.getContext('2d')!);
  const texture = new THREE.CanvasTexture(canvas as unknown as HTMLCanvasElement);
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.anisotropy = 4;
  if (repeat) {
    texture.wrapS = THREE.RepeatWrapping;
    texture.wrapT = THREE.RepeatWrapping;
    texture.repeat.set(...repeat);
  }
  return texture;
}

/** A wall with a pool of light, darker toward ceiling, floor and corners; plain, papered or half panelled. */
function wallTexture(seed: number, tone: THREE.Color, lightAt: number): THREE.CanvasTexture {
  const W = 1400;
  const H = 640;
  return canvasTexture(W, H, (c) => {
    const random = seededRandom(seed + 77);
    const style = Math.floor(seededRandom(seed * 3)() * 3);
    c.fillStyle = `#${tone.getHexString()}`;
    c.fillRect(0, 0, W, H);
    if (style === 1) {
      c.globalAlpha = 0.16;
      for (let y = 0; y < H; y += 26) {
        for (let x = (y / 26) % 2 ? 17 : 0; x < W; x += 34) {
          c.fillStyle = '#5a4a3a';
          c.beginPath();
          c.ellipse(x, y, 4, 8, 0.5, 0, 7);
          c.ellipse(x + 5, y + 5, 3, 6, -0.7, 0, 7);
          c.fill();
        }
      }
      c.globalAlpha = 1;
    }
    if (style === 2) {
      c.fillStyle = 'rgba(255,255,255,0.28)';
      c.fillRect(0, H * 0.64, W, H);
      c.fillStyle = 'rgba(60,50,40,0.3)';
      c.fillRect(0, H * 0.64 - 4, W, 4);
      for (let x = 0; x < W; x += 28) c.fillRect(x, H * 0.64, 1.2, H);
    }
    for (let i = 0; i < 5200; i++) {
      c.fillStyle = random() < 0.5 ? 'rgba(255,255,255,0.035)' : 'rgba(0,0,0,0.03)';
      c.fillRect(random() * W, random() * H, 1 + random() * 5, 1 + random() * 5);
    }
    const pool = c.createRadialGradient(W * lightAt, H * 0.42, 60, W * lightAt, H * 0.42, W * 0.55);
    pool.addColorStop(0, 'rgba(255,250,235,0.3)');
    pool.addColorStop(0.5, 'rgba(255,250,235,0)');
    pool.addColorStop(1, 'rgba(20,20,30,0.3)');
    c.fillStyle = pool;
    c.fillRect(0, 0, W, H);
    const down = c.createLinearGradient(0, 0, 0, H);
    down.addColorStop(0, 'rgba(20,20,30,0.22)');
    down.addColorStop(0.25, 'rgba(20,20,30,0)');
    down.addColorStop(0.8, 'rgba(20,16,10,0)');
    down.addColorStop(1, 'rgba(20,16,10,0.3)');
    c.fillStyle = down;
    c.fillRect(0, 0, W, H);
  });
}

const boards = (seed: number) =>
  canvasTexture(
    512,
    512,
    (c) => {
      const random = seededRandom(seed + 78);
      for (let y = 0; y < 512; y += 32) {
        let x = -random() * 200;
        while (x < 512) {
          const w = 150 + random() * 160;
          c.fillStyle = `hsl(32 ${22 + random() * 12}% ${72 + random() * 16}%)`;
          c.fillRect(x, y, w - 1, 31);
          for (let i = 0; i < 8; i++) {
            c.fillStyle = 'rgba(70,45,20,0.1)';
            c.fillRect(x + random() * w * 0.3, y + random() * 30, w * (0.4 + 0.3 * random()), 1);
          }
          x += w;
        }
      }
    },
    [4, 4],
  );

const rug = (seed: number) =>
  canvasTexture(256, 256, (c) => {
    const random = seededRandom(seed + 80);
    const hue = random() * 360;
    c.fillStyle = `hsl(${hue} 30% 45%)`;
    c.fillRect(0, 0, 256, 256);
    for (let inset = 8; inset < 100; inset += 14) {
      c.strokeStyle = `hsl(${hue + random() * 80} ${25 + random() * 20}% ${30 + random() * 45}%)`;
      c.lineWidth = 2 + random() * 7;
      c.strokeRect(inset, inset, 256 - 2 * inset, 256 - 2 * inset);
    }
    for (let i = 0; i < 6000; i++) {
      c.fillStyle = random() < 0.5 ? 'rgba(255,255,255,0.05)' : 'rgba(0,0,0,0.06)';
      c.fillRect(random() * 256, random() * 256, 1, 3);
    }
  });

/** A framed picture: sea and hills, coloured fields, or a bill with lines of text. */
const poster = (seed: number) =>
  canvasTexture(256, 320, (c) => {
    const random = seededRandom(seed + 79);
    const kind = Math.floor(random() * 3);
    const hue = random() * 360;
    if (kind === 0) {
      const sky = c.createLinearGradient(0, 0, 0, 320);
      sky.addColorStop(0, `hsl(${hue} 35% 72%)`);
      sky.addColorStop(0.5, `hsl(${hue + 20} 40% 86%)`);
      c.fillStyle = sky;
      c.fillRect(0, 0, 256, 320);
      for (let layer = 0; layer < 4; layer++) {
        c.fillStyle = `hsl(${hue + 30 * layer} 28% ${58 - layer * 10}%)`;
        c.beginPath();
        c.moveTo(0, 320);
        for (let x = 0; x <= 256; x += 8) c.lineTo(x, 130 + layer * 40 + 22 * Math.sin(x / (26 + 9 * layer) + layer * 2 + hue));
        c.lineTo(256, 320);
        c.fill();
      }
    } else {
      c.fillStyle = `hsl(${hue} 25% ${kind === 1 ? 82 : 90}%)`;
      c.fillRect(0, 0, 256, 320);
      for (let i = 0; i < 7; i++) {
        c.fillStyle = `hsl(${hue + random() * 120} ${30 + random() * 30}% ${35 + random() * 40}% / 0.85)`;
        if (kind === 1) c.fillRect(20 + random() * 150, 20 + random() * 190, 30 + random() * 80, 30 + random() * 80);
        else {
          c.beginPath();
          c.arc(40 + random() * 176, 40 + random() * 130, 12 + random() * 40, 0, 7);
          c.fill();
        }
      }
      c.fillStyle = '#2b2b30';
      if (kind === 2) for (let y = 215; y < 296; y += 11) c.fillRect(24, y, 110 + random() * 95, 4);
    }
    const glare = c.createLinearGradient(0, 0, 256, 320);
    glare.addColorStop(0.2, 'rgba(255,255,255,0.14)');
    glare.addColorStop(0.45, 'rgba(255,255,255,0)');
    c.fillStyle = glare;
    c.fillRect(0, 0, 256, 320);
  });
