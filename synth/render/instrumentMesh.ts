import * as THREE from 'three';
import { bodyPoint } from '../../src/core/instrument/body';
import { archAt, halfOutline } from '../../src/core/instrument/outline';
import type { StringLine } from '../../src/core/instrument/strings';
import { seededRandom } from '../../src/core/random';
import type { InstrumentBuild } from '../instrument/build';
import { type InstrumentLooks, swollen } from '../instrument/looks';

type P3 = readonly [number, number, number];

/** How thick a violin's bridge is at the top and at its feet, mm (from memory, lutherie common practice: 1.2 to 1.5 and 4.2 to 4.5). */
const BRIDGE_TOP = 1.3;
const BRIDGE_FEET = 4.4;

function surface(rows: readonly (readonly P3[])[], material: THREE.Material, uv?: (r: number, c: number) => readonly [number, number]): THREE.Mesh {
  const columns = rows[0]!.length;
  const position = new Float32Array(rows.length * columns * 3);
  const uvs = new Float32Array(rows.length * columns * 2);
  rows.forEach((row, r) =>
    row.forEach((p, c) => {
      position.set(p, 3 * (r * columns + c));
      uvs.set(uv ? uv(r, c) : [c / (columns - 1), r / (rows.length - 1)], 2 * (r * columns + c));
    }),
  );
  const index: number[] = [];
  for (let r = 1; r < rows.length; r++) {
    for (let c = 1; c < columns; c++) {
      const a = (r - 1) * columns + c - 1;
      index.push(a, a + columns, a + 1, a + 1, a + columns, a + columns + 1);
    }
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(position, 3));
  geometry.setAttribute('uv', new THREE.BufferAttribute(uvs, 2));
  geometry.setIndex(index);
  geometry.computeVertexNormals();
  const mesh = new THREE.Mesh(geometry, material);
  mesh.receiveShadow = true;
  return mesh;
}

function rod(a: P3, b: P3, ra: number, rb: number, material: THREE.Material, sides = 8): THREE.Mesh {
  const from = new THREE.Vector3(...a);
  const to = new THREE.Vector3(...b);
  const geometry = new THREE.CylinderGeometry(rb, ra, from.distanceTo(to), sides);
  const mesh = new THREE.Mesh(geometry, material);
  mesh.position.copy(from).add(to).multiplyScalar(0.5);
  mesh.quaternion.setFromUnitVectors(new THREE.Vector3(0, 1, 0), to.clone().sub(from).normalize());
  return mesh;
}

/** Varnish, grain, purfling and f-holes of the top plate, drawn flat; u runs along the body. */
function plateTexture(looks: InstrumentLooks, seed: number): THREE.CanvasTexture {
  const W = 1424;
  const H = 832;
  const canvas = new OffscreenCanvas(W, H);
  const c = canvas.getContext('2d')!;
  const random = seededRandom(seed * 13 + 8);
  const { hue, saturation, light, grain, sunburst } = looks.plate;
  const X = (u: number) => ((u + 161) / 356) * W;
  const Y = (y: number) => ((y + 104) / 208) * H;
  c.fillStyle = `hsl(${hue} ${saturation}% ${light}%)`;
  c.fillRect(0, 0, W, H);
  // Grain runs along the body, narrow in the middle.
  for (let y = -104; y < 104; ) {
    y += 0.7 + Math.abs(y) * 0.012 + random() * 0.6;
    c.strokeStyle = `hsla(${hue - 4} ${saturation}% ${Math.max(4, light - 18)}% / ${(0.25 + random() * 0.45) * grain})`;
    c.lineWidth = 0.8 + random() * 1.6;
    c.beginPath();
    const bend = (random() - 0.5) * 3;
    c.moveTo(0, Y(y));
    c.quadraticCurveTo(W / 2, Y(y + bend), W, Y(y));
    c.stroke();
  }
  // Wear and shade.
  for (let i = 0; i < 60; i++) {
    const x = random() * W;
    const y = random() * H;
    const r = 30 + random() * 130;
    const g = c.createRadialGradient(x, y, 0, x, y, r);
    g.addColorStop(0, `hsla(${hue + 8} ${saturation}% ${light + (random() - 0.4) * 26}% / 0.35)`);
    g.addColorStop(1, 'transparent');
    c.fillStyle = g;
    c.fillRect(x - r, y - r, 2 * r, 2 * r);
  }
  const outline = halfOutline(12);
  /** A line along the plate's edge, `inset` within it. */
  const follow = (inset: number) => {
    for (const side of [-1, 1]) {
      c.beginPath();
      outline.forEach(([u, w], i) => {
        const x = X(u + (u > 150 ? -0.9 : u < -130 ? 0.9 : 0) * inset);
        const y = Y(side * Math.max(0, w - inset));
        if (i === 0) c.moveTo(x, y);
        else c.lineTo(x, y);
      });
      c.stroke();
    }
  };
  for (let i = 0; sunburst > 0 && i < 9; i++) {
    c.strokeStyle = `hsla(${hue - 6} ${saturation}% ${light * 0.25}% / ${sunburst * 0.16})`;
    c.lineWidth = 30 + 26 * i;
    follow(0);
  }
  if (looks.purfling) {
    c.lineWidth = looks.purfling.width;
    c.strokeStyle = looks.purfling.color;
    follow(looks.purfling.inset);
  }
  const holes = looks.soundHoles;
  for (const side of [-1, 1]) {
    // Turned and moved about its own middle.
    const hole = (u: number, y: number): [number, number] => [
      X(holes.along + u * Math.cos(holes.turn) - (y - 43) * Math.sin(holes.turn)),
      Y(side * (43 + holes.apart + u * Math.sin(holes.turn) + (y - 43) * Math.cos(holes.turn))),
    ];
    c.strokeStyle = holes.color;
    c.fillStyle = holes.color;
    c.lineCap = 'round';
    c.lineWidth = 20 * holes.width;
    c.beginPath();
    c.moveTo(...hole(34, 24));
    c.bezierCurveTo(...hole(20, 46), ...hole(-10, 34), ...hole(-36, 62));
    c.stroke();
    for (const [u, y, r] of [
      [31, 21, 17],
      [-34, 66, 21],
    ] as const) {
      c.beginPath();
      c.arc(...hole(u, y), r * holes.width, 0, 7);
      c.fill();
    }
    c.lineWidth = 5;
    c.beginPath();
    c.moveTo(...hole(0, 30));
    c.lineTo(...hole(0, 52));
    c.stroke();
  }
  const texture = new THREE.CanvasTexture(canvas as unknown as HTMLCanvasElement);
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.anisotropy = 8;
  return texture;
}

function sideTexture({ hue, light }: InstrumentLooks['sides'], seed: number): THREE.CanvasTexture {
  const canvas = new OffscreenCanvas(512, 64);
  const c = canvas.getContext('2d')!;
  const random = seededRandom(seed * 17 + 3);
  c.fillStyle = `hsl(${hue} 65% ${light}%)`;
  c.fillRect(0, 0, 512, 64);
  for (let x = 0; x < 512; x += 4 + random() * 10) {
    c.fillStyle = `hsla(${hue - 2 + random() * 14} 70% ${light - 8 + random() * 26}% / 0.7)`;
    c.fillRect(x, 0, 2 + random() * 7, 64);
  }
  const texture = new THREE.CanvasTexture(canvas as unknown as HTMLCanvasElement);
  texture.colorSpace = THREE.SRGBColorSpace;
  return texture;
}

/** The instrument in its own frame (mm), ready to be placed in the room. */
export function instrumentMesh(build: InstrumentBuild, strings: readonly StringLine[], seed: number): THREE.Group {
  const group = new THREE.Group();
  const { model, looks } = build;
  const { frame } = model;
  const k = frame.scale;
  const lm = model.landmarks;
  const varnish = new THREE.MeshPhongMaterial({ map: plateTexture(looks, seed), shininess: 60, specular: 0x554433, side: THREE.DoubleSide });
  const maple = new THREE.MeshPhongMaterial({ map: sideTexture(looks.sides, seed), shininess: 50, specular: 0x443322, side: THREE.DoubleSide });
  const polished = (color: number) => new THREE.MeshPhongMaterial({ color, shininess: 40, specular: 0x555555, side: THREE.DoubleSide });
  const waxed = (color: number) => new THREE.MeshPhongMaterial({ color, shininess: 30, specular: 0x332211, side: THREE.DoubleSide });
  const boardWood = polished(looks.board);
  const fittings = polished(looks.fittings);
  const tail = polished(looks.tailpiece.color);
  const edge = waxed(looks.edge);
  const wood = waxed(looks.neck);
  const pale = new THREE.MeshLambertMaterial({ color: looks.bridge, side: THREE.DoubleSide });
  const metal = new THREE.MeshPhongMaterial({ color: 0x9a9da2, shininess: 80, specular: 0xffffff });
  const at = (u0: number, y0: number, w: number): P3 => {
    const [u, y] = swollen(looks.outline, u0, y0);
    return bodyPoint(frame, u * build.lengthways, y * build.width, w);
  };

  const outline = halfOutline(10);
  const across = Array.from({ length: 25 }, (_, i) => -1 + i / 12);
  const belly = surface(
    outline.map(([u, w]) => across.map((a): P3 => at(u, a * Math.max(w, 0.5), Math.abs(a) > 0.97 ? 2.5 : archAt(u, a * w)))),
    varnish,
    (r, c) => [(outline[r]![0] + 161) / 356, 1 - (across[c]! * outline[r]![1] + 104) / 208],
  );
  belly.castShadow = true;
  group.add(belly);
  group.add(
    surface(
      outline.map(([u, w]) => across.map((a): P3 => at(u, a * Math.max(w, 0.5), -frame.ribs - 4 * Math.cos((a * Math.PI) / 2)))),
      maple,
    ),
  );
  for (const side of [-1, 1]) {
    group.add(
      surface(
        [2.5, 0].map((w) => outline.map(([u, h]): P3 => at(u, side * (Math.max(h, 0.5) + 0.2), w))),
        edge,
      ),
    );
    group.add(
      surface(
        [0, -frame.ribs].map((w) => outline.map(([u, h]): P3 => at(u, side * Math.max(h - 2.6, 0.5), w))),
        maple,
        (r, c) => [c / 8, r],
      ),
    );
  }

  // Fingerboard: arched between its end and nut corners.
  const board = (t: number, drop: number, narrow: number): P3[] => {
    const mixed = (a: P3, b: P3): P3 => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
    const low = mixed(lm['instrument.fingerboardEnd.low'], lm['instrument.nut.low']);
    const high = mixed(lm['instrument.fingerboardEnd.high'], lm['instrument.nut.high']);
    const half = (low[1] - high[1]) / 2;
    const r = 42 * k;
    return Array.from({ length: 9 }, (_, i): P3 => {
      const a = i / 8;
      const y = low[1] + (high[1] - low[1]) * a;
      const rise = Math.sqrt(Math.max(1, r * r - (half * (1 - 2 * a)) ** 2)) - Math.sqrt(r * r - half * half);
      return [low[0], y * narrow, low[2] + (high[2] - low[2]) * a + (drop ? 0 : rise) - drop];
    });
  };
  const steps = Array.from({ length: 13 }, (_, i) => i / 12);
  group.add(
    surface(
      steps.map((t) => board(t, 0, 1)),
      boardWood,
    ),
  );
  group.add(
    surface(
      steps.map((t) => board(t, 5.5 * k, 0.96)),
      boardWood,
    ),
  );
  for (const edge of [0, 8])
    group.add(
      surface(
        steps.map((t) => [board(t, 0, 1)[edge]!, board(t, 5.5 * k, 0.96)[edge]!]),
        boardWood,
      ),
    );
  group.add(surface([board(0, 0, 1), board(0, 5.5 * k, 0.96)], boardWood));
  for (const tape of looks.tapes) {
    const x = model.stringLength * (1 - tape.at);
    const share = (place: number) => (place - model.fingerboardEndX) / (model.stringLength - model.fingerboardEndX);
    group.add(
      surface(
        [x - (tape.width * k) / 2, x + (tape.width * k) / 2].map((place) => board(share(place), 0, 1).map(([u, y, z]): P3 => [u, y, z + 0.3])),
        new THREE.MeshLambertMaterial({ color: tape.color, side: THREE.DoubleSide }),
      ),
    );
  }
  // Neck: a half round under the fingerboard from the body to the pegbox.
  const heel = 150 * k;
  const neckSteps = Array.from({ length: 9 }, (_, i) => heel + ((model.stringLength - heel) * i) / 8);
  group.add(
    surface(
      neckSteps.map((x) => {
        const t = (x - model.fingerboardEndX) / (model.stringLength - model.fingerboardEndX);
        const top = board(t, 5.5 * k, 0.96);
        const half = Math.abs(top[0]![1]);
        const depth = (x < heel + 25 * k ? 24 - ((x - heel) / (25 * k)) * 9 : 15) * k;
        return Array.from({ length: 11 }, (_, i): P3 => {
          const a = Math.PI * (i / 10);
          return [x, half * Math.cos(a), top[4]![2] - depth * Math.sin(a)];
        });
      }),
      wood,
    ),
  );
  const nut = [lm['instrument.nut.low'], lm['instrument.nut.high']];
  group.add(rod([nut[0]![0] + 2, nut[0]![1], nut[0]![2] - 1], [nut[1]![0] + 2, nut[1]![1], nut[1]![2] - 1], 2.6 * k, 2.6 * k, pale));

  // Pegbox leaning back, scroll as turns of a shrinking roll, four pegs.
  const scroll = lm['instrument.scroll'];
  const boxRow = (t: number): P3[] => {
    const x = model.stringLength + 4 + t * 62 * k;
    const half = (12.5 - 4 * t) * k;
    const z = -3 * k - 12 * k * t;
    return [
      [x, half, z],
      [x, half, z - 22 * k],
      [x, -half, z - 22 * k],
      [x, -half, z],
      [x, half, z],
    ];
  };
  group.add(
    surface(
      Array.from({ length: 6 }, (_, i) => boxRow(i / 5)),
      wood,
    ),
  );
  group.add(surface([boxRow(0), boxRow(0).map(([x, , z]): P3 => [x, 0, z])], wood));
  const roll = k * looks.scroll.size;
  const centre: P3 = [scroll[0] - 19 * roll, scroll[1], scroll[2] - 4 * roll];
  for (const [radius, thick, wide] of [
    [14.5, 4.6, 11],
    [9, 4, 15],
    [4, 4, 19],
  ] as const) {
    const ring = new THREE.Mesh(new THREE.TorusGeometry(radius * roll, thick * roll, 10, 28), wood);
    ring.position.set(...centre);
    ring.rotation.x = Math.PI / 2;
    ring.scale.set(1, 1, (wide / 8) * looks.scroll.wide);
    group.add(ring);
  }
  group.add(
    rod([centre[0], centre[1] - 17 * roll * looks.scroll.wide, centre[2]], [centre[0], centre[1] + 17 * roll * looks.scroll.wide, centre[2]], 5 * roll, 5 * roll, wood, 14),
  );
  const neckOfScroll = boxRow(1);
  group.add(surface([neckOfScroll, neckOfScroll.map(([, y]): P3 => [centre[0] - 4 * k, y * 0.9, centre[2] + (y > 0 ? 6 : -4) * k])], wood));
  [0.16, 0.36, 0.58, 0.8].forEach((t, i) => {
    const x = model.stringLength + 4 + t * 62 * k;
    const z = -12 * k - 12 * k * t;
    const side = i % 2 === 0 ? 1 : -1;
    group.add(rod([x, -side * 14 * k, z], [x, side * 24 * k, z], 3.2 * k, 4 * k, fittings));
    const head = new THREE.Mesh(new THREE.SphereGeometry(8 * k * looks.pegs, 12, 10), fittings);
    head.scale.set(1, 0.9, 0.35);
    head.position.set(x, side * 32 * k, z);
    group.add(head);
  });

  // Bridge with feet and cut-outs.
  const spread = model.bridgeSpread / 2;
  const r = model.dimensions.bridgeRadius;
  const arc = (y: number) => Math.sqrt(r * r - y * y) - Math.sqrt(r * r - spread * spread);
  const foot = lm['instrument.bridgeFoot.low'];
  const footHigh = lm['instrument.bridgeFoot.high'];
  const bridge = new THREE.Shape();
  const base = foot[2];
  const baseHigh = footHigh[2];
  bridge.moveTo(foot[1], base);
  bridge.lineTo(foot[1] - 11 * k, base + 0.5);
  bridge.quadraticCurveTo(0, base + 11 * k, footHigh[1] + 11 * k, baseHigh + 0.5);
  bridge.lineTo(footHigh[1], baseHigh);
  bridge.lineTo(footHigh[1] + 1, baseHigh + 4 * k);
  bridge.quadraticCurveTo(-13 * k, -16 * k, -spread - 2.5 * k, -3 * k);
  for (let i = 0; i <= 10; i++) {
    const y = -spread - 2 + ((2 * spread + 4) * i) / 10;
    bridge.lineTo(y, arc(Math.max(-spread, Math.min(spread, y))) - 0.4);
  }
  bridge.lineTo(spread + 2.5 * k, -3 * k);
  bridge.quadraticCurveTo(13 * k, -16 * k, foot[1] - 1, base + 4 * k);
  for (const y of [-9 * k, 9 * k]) {
    const hole = new THREE.Path();
    hole.absellipse(y, -11 * k, 3.4 * k, 2.6 * k, 0, 2 * Math.PI);
    bridge.holes.push(hole);
  }
  const heart = new THREE.Path();
  heart.absellipse(0, -8 * k, 2.6 * k, 3.4 * k, 0, 2 * Math.PI);
  bridge.holes.push(heart);
  const bridgeGeometry = new THREE.ExtrudeGeometry(bridge, { depth: 1, bevelEnabled: false });
  // The feet stand a little forward of the notches; the wood is thinner toward the top.
  const lean = (foot[0] + footHigh[0]) / 2 / (base || -1);
  const vertices = bridgeGeometry.getAttribute('position');
  for (let i = 0; i < vertices.count; i++) {
    // Shape's (x, y) are the instrument's (y, z); extruded along x.
    const [y, z] = [vertices.getX(i), vertices.getY(i)];
    const thick = k * (BRIDGE_TOP + (BRIDGE_FEET - BRIDGE_TOP) * Math.min(1, Math.max(0, z / (base || -1))));
    vertices.setXYZ(i, lean * z + thick * (vertices.getZ(i) - 0.5), y, z);
  }
  bridgeGeometry.computeVertexNormals();
  const sheet = new THREE.Mesh(bridgeGeometry, pale);
  group.add(sheet);

  // Tailpiece with fine tuners, strings over it, chin rest, end button.
  const end = lm['instrument.tailpieceEnd'];
  const front = -model.stringLength * 0.17;
  const piece = (t: number, drop: number): P3[] =>
    Array.from({ length: 7 }, (_, i): P3 => {
      const a = 1 - i / 3;
      const half = (20 - 10 * t) * k * looks.tailpiece.wide;
      return [front + (end[0] - front) * t, a * half + end[1] * t, -6 * k + (end[2] + 6 * k) * t - 5 * k * a * a - drop];
    });
  group.add(
    surface(
      [0, 0.3, 0.6, 1].map((t) => piece(t, 0)),
      tail,
    ),
    surface([piece(0, 0), piece(0, 6 * k)], tail),
  );
  strings.forEach((line, n) => {
    const y = line.bridge[1] * 0.75;
    const anchor: P3 = [front - 8 * k, y, -4 * k];
    const gauge = 0.8 - 0.16 * n;
    const top: P3 = [0, line.bridge[1], line.bridge[2]];
    const head: P3 = [line.nut[0], line.nut[1], line.nut[2]];
    group.add(rod(anchor, top, gauge, gauge, metal, 6), rod(top, head, gauge, gauge, metal, 6));
    group.add(rod(head, [line.nut[0] + 34 * k, line.nut[1] * 0.6, -16 * k], gauge, gauge, metal, 6));
    // One fine tuner is that of the highest string.
    if (n >= strings.length - looks.tailpiece.tuners) group.add(rod([front - 14 * k, y, 1 * k], [front - 6 * k, y, -8 * k], 1.9 * k, 2.6 * k, metal, 8));
  });
  if (build.endpin > 0) {
    const from = lm['instrument.endButton'];
    group.add(rod(from, [from[0] - build.endpin, from[1], from[2]], 5, 4, metal, 10));
  } else {
    const { chinRest } = looks;
    if (chinRest) {
      const rest = new THREE.Mesh(new THREE.SphereGeometry(36 * k * chinRest.size, 24, 14), fittings);
      rest.scale.set(0.72, 0.95, 0.22);
      rest.position.set(...at(chinRest.u, chinRest.y, chinRest.lift));
      group.add(rest);
    }
    // A rest of foam on a bar under the back keeps it off the shoulder.
    if (looks.shoulderRest) {
      const foam = new THREE.Mesh(new THREE.CapsuleGeometry(9 * k, 150 * k, 6, 14), new THREE.MeshLambertMaterial({ color: 0x23262b }));
      foam.position.set(...at(-92, 4, -frame.ribs - 16));
      group.add(foam);
    }
  }
  const button = new THREE.Mesh(new THREE.SphereGeometry(7 * k, 12, 10), fittings);
  button.position.set(...lm['instrument.endButton']);
  group.add(button);
  return group;
}
