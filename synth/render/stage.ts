import * as THREE from 'three';
import type { Vec3 } from '../../src/core/geometry/vec3';
import { normal, seededRandom } from '../../src/core/random';
import { Phone } from '../camera/phone';
import { jointsAt } from '../figure/joints';
import { GOOD_POSTURE } from '../figure/posture';
import { walkerAt, walkOf } from '../figure/walker';
import { buildInstrument } from '../instrument/build';
import { wander } from '../motion/course';
import { type Moment, Performance } from '../motion/performance';
import type { Scenario } from '../presets/scenario';
import { BowMesh } from './bowMesh';
import { DepthView } from './depthView';
import { instrumentMesh } from './instrumentMesh';
import { PersonMesh } from './personMesh';
import { pluckedMesh } from './pluckedMesh';
import { roomMesh, stoolMesh } from './room';

/** What may be in the player's hands. */
export type Held = 'bowed' | 'plucked' | 'nothing';

/** A square cut from the phone's picture (its own pixels), drawn `pixels` across. */
export interface Crop {
  readonly left: number;
  readonly top: number;
  readonly side: number;
}

/** Bands a picture is drawn in where the shutter rolls (ours: within a band nothing moves by a pixel). */
const BANDS = 8;

/** Scene of one scenario, posed at any moment. */
export class Stage {
  readonly build;
  readonly performance: Performance;
  readonly phone: Phone;
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly camera: THREE.PerspectiveCamera;
  private readonly instrument: THREE.Group;
  private readonly bow: BowMesh;
  private readonly person: PersonMesh;
  private readonly walker: { readonly mesh: PersonMesh; readonly stature: number; readonly from: Vec3; readonly way: Vec3 } | undefined;
  private readonly room: THREE.Group;
  private plucked: THREE.Group | undefined;
  private readonly depth: DepthView;
  readonly canvas: OffscreenCanvas;
  private readonly finished: OffscreenCanvas;
  private readonly grain: OffscreenCanvas[] = [];
  private readonly random: () => number;
  private readonly exposure: (t: number) => number;

  /** @param cropPixels size of the canvas when only squares of the picture are drawn, see {@link cut}; the whole picture without. */
  constructor(
    readonly scenario: Scenario,
    cropPixels?: number,
  ) {
    const width = cropPixels ?? scenario.width;
    const height = cropPixels ?? scenario.height;
    this.build = buildInstrument(scenario);
    this.performance = new Performance(scenario, this.build);
    this.phone = new Phone(scenario, this.performance.stature, this.performance.middle);
    this.canvas = new OffscreenCanvas(width, height);
    this.finished = new OffscreenCanvas(width, height);
    this.renderer = new THREE.WebGLRenderer({ canvas: this.canvas as unknown as HTMLCanvasElement, antialias: true, alpha: true, preserveDrawingBuffer: true });
    this.renderer.setSize(width, height, false);
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = THREE.PCFShadowMap;
    this.renderer.toneMapping = THREE.ACESFilmicToneMapping;
    const vertical = (2 * Math.atan(scenario.height / 2 / this.phone.camera.focal) * 180) / Math.PI;
    this.camera = new THREE.PerspectiveCamera(vertical, scenario.width / scenario.height, 80, 9000);
    this.camera.matrixAutoUpdate = false;
    this.instrument = instrumentMesh(this.build, this.performance.strings, scenario.seed);
    this.instrument.matrixAutoUpdate = false;
    this.bow = new BowMesh(this.build.hair, this.build.bowScale, this.build.looks.bow);
    this.bow.group.matrixAutoUpdate = false;
    // The skin is made in a quiet posture in mid-bow, so that playing bends it little.
    const { ready: _, ...playing } = scenario;
    const quiet = { ...playing, sway: 0, wander: 0, instrumentSwing: 0, strokes: [{ string: 1, direction: 'down', seconds: 1, part: [0.45, 0.45], rest: 0 }] } as const;
    const rest = jointsAt(new Performance(quiet, this.build).at(0), this.build, this.performance.stature, GOOD_POSTURE);
    this.person = new PersonMesh(this.performance.stature, rest, scenario.seed);
    this.walker = scenario.walker ? this.makeWalker() : undefined;
    if (this.walker) this.scene.add(this.walker.mesh.group);
    this.depth = new DepthView(width, height);
    this.scene.background = new THREE.Color(0x9aa3a8);
    if (rest.seat) this.scene.add(stoolMesh(rest.seat));
    this.room = roomMesh(scenario.seed, scenario.light, scenario.backLight);
    this.scene.add(this.room, this.person.group, this.instrument, this.bow.group);
    this.random = seededRandom(scenario.seed * 7 + 6);
    this.exposure = wander(seededRandom(scenario.seed * 29 + 11), 0.08, 0.4);
    this.makeGrain();
  }

  /** Someone else, of another size and in other clothes, on the way through the room. */
  private makeWalker() {
    const random = seededRandom(this.scenario.seed * 41 + 19);
    const stature = 1300 + 450 * random();
    const walk = walkOf(random, this.performance.duration, stature);
    return { mesh: new PersonMesh(stature, walkerAt(0, stature, walk.from, walk.way), this.scenario.seed + 501), stature, ...walk };
  }

  /** Tiles of sensor noise, laid over at random places so that they never repeat in place. */
  private makeGrain(): void {
    for (let n = 0; n < 3; n++) {
      const tile = new OffscreenCanvas(512, 512);
      const c = tile.getContext('2d')!;
      const data = c.createImageData(512, 512);
      for (let i = 0; i < data.data.length; i += 4) {
        const e = normal(this.random) * this.scenario.noise * 2;
        data.data[i] = 128 + e + normal(this.random) * this.scenario.noise;
        data.data[i + 1] = 128 + e;
        data.data[i + 2] = 128 + e + normal(this.random) * this.scenario.noise;
        data.data[i + 3] = 255;
      }
      c.putImageData(data, 0, 0);
      this.grain.push(tile);
    }
  }

  pose(moment: Moment, phone = this.phone, posture = this.scenario.posture): void {
    this.renderer.toneMappingExposure = 1.25 * (1 + this.scenario.exposureDrift * this.exposure(moment.t));
    const joints = jointsAt(moment, this.build, this.performance.stature, posture);
    this.person.update(joints);
    if (this.walker) this.walker.mesh.update(walkerAt(moment.t, this.walker.stature, this.walker.from, this.walker.way));
    const { rotation: m, translation: t } = moment.instrument;
    this.instrument.matrix.set(m[0], m[1], m[2], t[0], m[3], m[4], m[5], t[1], m[6], m[7], m[8], t[2], 0, 0, 0, 1);
    // A plucked instrument lies lower, before the chest, its top toward the looker.
    if (this.plucked) {
      const lower = new THREE.Matrix4().makeTranslation(-60, -70, -260);
      this.plucked.matrix.copy(lower).multiply(this.instrument.matrix).multiply(new THREE.Matrix4().makeRotationX(0.9));
    }
    // The stick leans a little to the scroll's side.
    const { along, back, off } = joints.bowAxes;
    const lean = moment.stickLean;
    const z = new THREE.Vector3(...off).multiplyScalar(Math.cos(lean)).addScaledVector(new THREE.Vector3(...back), -Math.sin(lean));
    const x = new THREE.Vector3(...along);
    const y = z.clone().cross(x);
    this.bow.group.matrix.makeBasis(x, y, z).setPosition(...(moment.frog as [number, number, number]));
    const eye = phone.poseAt(moment.t);
    const r = eye.rotation;
    const p = eye.translation;
    // three's camera looks along -z with y up; ours along +z with y down.
    const view = new THREE.Matrix4().set(r[0], r[1], r[2], p[0], -r[3], -r[4], -r[5], -p[1], -r[6], -r[7], -r[8], -p[2], 0, 0, 0, 1);
    this.camera.matrix.copy(view).invert();
    this.camera.matrixWorldNeedsUpdate = true;
    this.scene.updateMatrixWorld(true);
  }

  /** Narrows the view to a square of the picture a phone would take. */
  cut(phone: Phone, crop: Crop): void {
    const { width, height, focal } = phone.camera;
    this.camera.fov = (2 * Math.atan(height / 2 / focal) * 180) / Math.PI;
    this.camera.aspect = width / height;
    this.camera.setViewOffset(width, height, crop.left, crop.top, crop.side, crop.side);
  }

  /** Takes the room's walls and things away, or puts them back; its lights stay. Without them what is not player, instrument or bow is transparent. */
  showRoom(shown: boolean): void {
    this.room.traverse((part) => {
      if (part instanceof THREE.Mesh) part.visible = shown;
    });
    this.scene.background = shown ? new THREE.Color(0x9aa3a8) : null;
    this.renderer.setClearColor(0x000000, shown ? 1 : 0);
  }

  /** What the player holds: instrument and bow, a plucked instrument held lower, or nothing at all. */
  hold(held: Held): void {
    this.instrument.visible = held === 'bowed';
    this.bow.group.visible = held === 'bowed';
    if (held === 'plucked' && !this.plucked) {
      this.plucked = pluckedMesh(this.scenario.seed);
      this.scene.add(this.plucked);
    }
    if (this.plucked) this.plucked.visible = held === 'plucked';
  }

  /**
   * The picture a phone takes at a time, with the scene left posed as it is then. Where the shutter rolls, the picture
   * is drawn in bands from top to bottom, each as the scene is when its rows are read.
   */
  film(t: number): OffscreenCanvas {
    const { rollingShutter } = this.scenario;
    if (rollingShutter > 0) {
      const { width, height } = this.canvas;
      this.renderer.setScissorTest(true);
      for (let band = 0; band < BANDS; band++) {
        this.pose(this.performance.at(Math.min(this.performance.duration, Math.max(0, t + rollingShutter * ((band + 0.5) / BANDS - 0.5)))));
        const [top, bottom] = [Math.round((band * height) / BANDS), Math.round(((band + 1) * height) / BANDS)];
        // The drawing surface counts its rows from below.
        this.renderer.setScissor(0, height - bottom, width, bottom - top);
        this.renderer.shadowMap.autoUpdate = band === 0;
        this.renderer.render(this.scene, this.camera);
      }
      this.renderer.shadowMap.autoUpdate = true;
      this.renderer.setScissorTest(false);
      this.pose(this.performance.at(t));
      return this.finish(true);
    }
    this.pose(this.performance.at(t));
    return this.shoot();
  }

  /** Renders the posed scene as a phone would record it: a little soft, noisy. */
  shoot(grain = true): OffscreenCanvas {
    this.renderer.render(this.scene, this.camera);
    return this.finish(grain);
  }

  private finish(grain: boolean): OffscreenCanvas {
    const c = this.finished.getContext('2d')!;
    c.globalCompositeOperation = 'copy';
    const { defocus = 0, width, height } = this.scenario;
    c.filter = `blur(${0.55 + (defocus * Math.max(width, height)) / 960}px)`;
    if (this.scenario.leftHanded) c.setTransform(-1, 0, 0, 1, this.canvas.width, 0);
    c.drawImage(this.canvas, 0, 0);
    c.resetTransform();
    c.filter = 'none';
    if (!grain) {
      c.globalCompositeOperation = 'source-over';
      return this.finished;
    }
    // 50 % grey changes nothing under "hard-light" blending near the middle tones; noise about it does.
    c.globalCompositeOperation = 'hard-light';
    const tile = this.grain[Math.floor(this.random() * this.grain.length)]!;
    const ox = -Math.floor(this.random() * 512);
    const oy = -Math.floor(this.random() * 512);
    for (let x = ox; x < this.finished.width; x += 512) for (let y = oy; y < this.finished.height; y += 512) c.drawImage(tile, x, y);
    c.globalCompositeOperation = 'source-over';
    return this.finished;
  }

  /** Whether nothing lies more than `grace` mm before a point of the room (landmarks lie on surfaces). Asks about the scene as last rendered. */
  sees = (point: readonly [number, number, number], grace = 12): boolean => this.depth.sees(point, this.camera, grace);

  /** Measures depths for {@link sees}. */
  lookAround(): void {
    this.depth.render(this.renderer, this.scene, this.camera);
  }

  dispose(): void {
    this.renderer.dispose();
    this.renderer.forceContextLoss();
  }
}
