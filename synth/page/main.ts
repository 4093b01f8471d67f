import { AudioSample, AudioSampleSource, BufferTarget, Mp4OutputFormat, Output, VideoSample, VideoSampleSource } from 'mediabunny';
import { marksToText } from '../../src/core/formats/marks';
import { heldPlayer } from '../presets/heldHands';
import type { Scenario } from '../presets/scenario';
import { variedScenario } from '../presets/variety';
import { skinsReady } from '../render/skinnedPart';
import { Stage } from '../render/stage';
import { bowedSound, SAMPLE_RATE, soundTakeOf } from '../sound/bowedString';
import { TruthBook } from '../truth/truth';
import { type LabelledCrop, labelledCrops } from './crops';
import { type LabelledHand, labelledHands } from './handCrops';

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
    /** Labelled squares about the instrument of one varied player (WebP as base64), to learn from. */
    renderCrops(seed: number, count: number, pixels: number): Promise<LabelledCrop[]>;
    /** The same about the bow hand. */
    renderHands(seed: number, count: number, pixels: number): Promise<LabelledHand[]>;
  }
}

window.renderStill = async (scenario, t) => {
  await skinsReady();
  const stage = new Stage(scenario);
  const blob = await stage.film(t).convertToBlob({ type: 'image/png' });
  stage.dispose();
  return toBase64(await blob.arrayBuffer());
};

window.renderCrops = async (seed, count, pixels) => {
  await skinsReady();
  return labelledCrops((n, side) => new Stage(variedScenario(n), side), seed, count, pixels, encodeCrop);
};

window.renderHands = async (seed, count, pixels) => {
  await skinsReady();
  return labelledHands((n, side) => new Stage(heldPlayer(n), side), seed, count, pixels, encodeCrop);
};

async function encodeCrop(canvas: OffscreenCanvas): Promise<string> {
  return toBase64(await (await canvas.convertToBlob({ type: 'image/webp', quality: 0.93 })).arrayBuffer());
}

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
  // In a film of few frames the places between two written down would be guesses.
  const every = scenario.framesPerSecond < 12 ? 1 : 5;
  for (let i = 0; i < frames; i++) {
    const t = i / scenario.framesPerSecond;
    const moment = stage.performance.at(t);
    const picture = stage.film(t);
    const sample = new VideoSample(picture, { timestamp: t, duration: 1 / scenario.framesPerSecond });
    await video.add(sample);
    sample.close();
    if (i % every === 0) stage.lookAround();
    book.add(i, moment, i % every === 0 ? stage.sees : undefined);
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
