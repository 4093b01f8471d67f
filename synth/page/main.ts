import { AudioSample, AudioSampleSource, BufferTarget, Mp4OutputFormat, Output, VideoSample, VideoSampleSource } from 'mediabunny';
import * as THREE from 'three';
import { marksToText } from '../../src/core/formats/marks';
import { normal, seededRandom } from '../../src/core/random';
import { Phone } from '../camera/phone';
import { jointsAt } from '../figure/joints';
import { GOOD_POSTURE } from '../figure/posture';
import { buildInstrument } from '../instrument/build';
import { wander } from '../motion/course';
import { type Moment, Performance } from '../motion/performance';
import type { Scenario } from '../presets/scenario';
import { BowMesh } from '../render/bowMesh';
import { DepthView } from '../render/depthView';
import { instrumentMesh } from '../render/instrumentMesh';
import { PersonMesh } from '../render/personMesh';
import { roomMesh, stoolMesh } from '../render/room';
import { skinsReady } from '../render/skinnedPart';
import { bowedSound, SAMPLE_RATE, soundTakeOf } from '../sound/bowedString';
import { TruthBook } from '../truth/truth';

export interface RenderedClip {
  /** Film as base64, since it crosses from the browser to the command line. */
  readonly film: string;
  readonly truth: string;
  readonly landmarks: string;
  /** Faults, strokes and notes as they were meant. */
  readonly score: string;
  readonly marks: string;
  readonly frames: number;
  readonly milliseconds: number;
}

declare global {
  interface Window {
    renderClip(scenario: Scenario, limitSeconds?: number): Promise<RenderedClip>;
    /** One picture as a PNG data address, for looking. */
    renderStill(scenario: Scenario, t: number): Promise<string>;
  }
}

/** Scene of one scenario, posed at any moment. */
class Stage {
  readonly build;
  readonly performance: Performance;
  readonly phone: Phone;
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly camera: THREE.PerspectiveCamera;
  private readonly instrument: THREE.Group;
  private readonly bow: BowMesh;
  private readonly person: PersonMesh;
  private readonly depth: DepthView;
  readonly canvas: OffscreenCanvas;
  private readonly finished: OffscreenCanvas;
  private readonly grain: OffscreenCanvas[] = [];
  private readonly random: () => number;
  private readonly exposure: (t: number) => number;

  constructor(readonly scenario: Scenario) {
    this.build = buildInstrument(scenario);
    this.performance = new Performance(scenario, this.build);
    this.phone = new Phone(scenario, this.performance.stature, this.performance.middle);
    this.canvas = new OffscreenCanvas(scenario.width, scenario.height);
    this.finished = new OffscreenCanvas(scenario.width, scenario.height);
    this.renderer = new THREE.WebGLRenderer({ canvas: this.canvas as unknown as HTMLCanvasElement, antialias: true, preserveDrawingBuffer: true });
    this.renderer.setSize(scenario.width, scenario.height, false);
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = THREE.PCFShadowMap;
    this.renderer.toneMapping = THREE.ACESFilmicToneMapping;
    const vertical = (2 * Math.atan(scenario.height / 2 / this.phone.camera.focal) * 180) / Math.PI;
    this.camera = new THREE.PerspectiveCamera(vertical, scenario.width / scenario.height, 80, 9000);
    this.camera.matrixAutoUpdate = false;
    this.instrument = instrumentMesh(this.build, this.performance.strings, scenario.seed);
    this.instrument.matrixAutoUpdate = false;
    this.bow = new BowMesh(this.build.hair, this.build.bowScale);
    this.bow.group.matrixAutoUpdate = false;
    // The skin is made in a quiet posture in mid-bow, so that playing bends it little.
    const quiet = { ...scenario, sway: 0, wander: 0, instrumentSwing: 0, strokes: [{ string: 1, direction: 'down', seconds: 1, part: [0.45, 0.45], rest: 0 }] } as const;
    const rest = jointsAt(new Performance(quiet, this.build).at(0), this.build, this.performance.stature, GOOD_POSTURE);
    this.person = new PersonMesh(this.performance.stature, rest, scenario.seed);
    this.depth = new DepthView(scenario.width, scenario.height);
    this.scene.background = new THREE.Color(0x9aa3a8);
    if (rest.seat) this.scene.add(stoolMesh(rest.seat));
    this.scene.add(roomMesh(scenario.seed, scenario.light, scenario.backLight), this.person.group, this.instrument, this.bow.group);
    this.random = seededRandom(scenario.seed * 7 + 6);
    this.exposure = wander(seededRandom(scenario.seed * 29 + 11), 0.08, 0.4);
    this.makeGrain();
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

  pose(moment: Moment): void {
    this.renderer.toneMappingExposure = 1.25 * (1 + this.scenario.exposureDrift * this.exposure(moment.t));
    const joints = jointsAt(moment, this.build, this.performance.stature, this.scenario.posture);
    this.person.update(joints);
    const { rotation: m, translation: t } = moment.instrument;
    this.instrument.matrix.set(m[0], m[1], m[2], t[0], m[3], m[4], m[5], t[1], m[6], m[7], m[8], t[2], 0, 0, 0, 1);
    // The stick leans a little to the scroll's side.
    const { along, back, off } = joints.bowAxes;
    const lean = moment.stickLean;
    const z = new THREE.Vector3(...off).multiplyScalar(Math.cos(lean)).addScaledVector(new THREE.Vector3(...back), -Math.sin(lean));
    const x = new THREE.Vector3(...along);
    const y = z.clone().cross(x);
    this.bow.group.matrix.makeBasis(x, y, z).setPosition(...(moment.frog as [number, number, number]));
    const eye = this.phone.poseAt(moment.t);
    const r = eye.rotation;
    const p = eye.translation;
    // three's camera looks along -z with y up; ours along +z with y down.
    const view = new THREE.Matrix4().set(r[0], r[1], r[2], p[0], -r[3], -r[4], -r[5], -p[1], -r[6], -r[7], -r[8], -p[2], 0, 0, 0, 1);
    this.camera.matrix.copy(view).invert();
    this.camera.matrixWorldNeedsUpdate = true;
    this.scene.updateMatrixWorld(true);
  }

  /** Renders the posed scene as a phone would record it: a little soft, noisy. */
  shoot(): OffscreenCanvas {
    this.renderer.render(this.scene, this.camera);
    const c = this.finished.getContext('2d')!;
    c.globalCompositeOperation = 'copy';
    c.filter = 'blur(0.55px)';
    if (this.scenario.leftHanded) c.setTransform(-1, 0, 0, 1, this.canvas.width, 0);
    c.drawImage(this.canvas, 0, 0);
    c.resetTransform();
    c.filter = 'none';
    // 50 % grey changes nothing under "hard-light" blending near the middle tones; noise about it does.
    c.globalCompositeOperation = 'hard-light';
    const tile = this.grain[Math.floor(this.random() * this.grain.length)]!;
    const ox = -Math.floor(this.random() * 512);
    const oy = -Math.floor(this.random() * 512);
    for (let x = ox; x < this.finished.width; x += 512) for (let y = oy; y < this.finished.height; y += 512) c.drawImage(tile, x, y);
    c.globalCompositeOperation = 'source-over';
    return this.finished;
  }

  /** Whether a point of the room lies before everything else (12 mm of grace: landmarks lie on surfaces). Asks about the scene as last rendered. */
  sees = (point: readonly [number, number, number]): boolean => this.depth.sees(point, this.camera, 12);

  /** Measures depths for {@link sees}. */
  lookAround(): void {
    this.depth.render(this.renderer, this.scene, this.camera);
  }

  dispose(): void {
    this.renderer.dispose();
    this.renderer.forceContextLoss();
  }
}

window.renderStill = async (scenario, t) => {
  await skinsReady();
  const stage = new Stage(scenario);
  stage.pose(stage.performance.at(t));
  const blob = await stage.shoot().convertToBlob({ type: 'image/png' });
  stage.dispose();
  return toBase64(await blob.arrayBuffer());
};

window.renderClip = async (scenario, limitSeconds) => {
  await skinsReady();
  const start = performance.now();
  const stage = new Stage(scenario);
  const book = new TruthBook(scenario, stage.build, stage.performance, stage.phone);
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat(), target });
  const video = new VideoSampleSource({ codec: 'avc', bitrate: scenario.bitrate, keyFrameInterval: 2 });
  const audio = new AudioSampleSource({ codec: 'opus', bitrate: 64_000 });
  output.addVideoTrack(video, { frameRate: scenario.framesPerSecond });
  output.addAudioTrack(audio);
  await output.start();
  const duration = Math.min(limitSeconds ?? Number.POSITIVE_INFINITY, stage.performance.duration);
  const frames = Math.floor(duration * scenario.framesPerSecond);
  const sound = bowedSound(stage.performance, scenario.family, stage.build.model.frame.scale, stage.build.model.fingerboardEndX, soundTakeOf(scenario));
  const chunk = SAMPLE_RATE / 2;
  for (let at = 0; at < Math.min(sound.length, duration * SAMPLE_RATE); at += chunk) {
    const data = sound.slice(at, at + chunk);
    const sample = new AudioSample({ data, format: 'f32', numberOfChannels: 1, sampleRate: SAMPLE_RATE, timestamp: at / SAMPLE_RATE });
    await audio.add(sample);
    sample.close();
  }
  for (let i = 0; i < frames; i++) {
    const t = i / scenario.framesPerSecond;
    const moment = stage.performance.at(t);
    stage.pose(moment);
    const picture = stage.shoot();
    const sample = new VideoSample(picture, { timestamp: t, duration: 1 / scenario.framesPerSecond });
    await video.add(sample);
    sample.close();
    if (i % 5 === 0) stage.lookAround();
    book.add(i, moment, i % 5 === 0 ? stage.sees : undefined);
  }
  await output.finalize();
  stage.dispose();
  return {
    film: toBase64(target.buffer!),
    truth: book.truthCsv(),
    landmarks: book.landmarksCsv(),
    score: book.scoreJson(),
    marks: marksToText(book.marks()),
    frames,
    milliseconds: performance.now() - start,
  };
};

function toBase64(buffer: ArrayBuffer): string {
  const bytes = new Uint8Array(buffer);
  let text = '';
  for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
  return btoa(text);
}
