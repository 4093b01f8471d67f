import { BufferTarget, Mp4OutputFormat, Output, VideoSampleSource } from 'mediabunny';
import { Film } from '../../src/vision/film/openFilm';

/** Frames of a backward run that are held at once. */
const RUN = 24;

/** Index of each frame of a film played forward and backward in turn until `frames` are shown. */
function* thereAndBack(length: number, frames: number): Generator<number> {
  const lap = 2 * (length - 1);
  for (let i = 0; i < frames; i++) {
    const at = i % lap;
    yield at < length ? at : lap - at;
  }
}

/** A longer film of the same scene without a jump in it: the clip played forward and backward until `seconds` are full. */
export async function lengthen(blob: Blob, seconds: number): Promise<ArrayBuffer> {
  const film = await Film.open(blob);
  const rate = (film.times.length - 1) / film.times[film.times.length - 1]!;
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat(), target });
  const video = new VideoSampleSource({ codec: 'avc', bitrate: 6_000_000, keyFrameInterval: 2 });
  output.addVideoTrack(video, { frameRate: rate });
  await output.start();
  let at = 0;
  const show = async (index: number) => {
    for await (const sample of film.samples(index, index + 1)) {
      sample.setTimestamp(at++ / rate);
      await video.add(sample);
      sample.close();
    }
  };
  // Runs in one direction are decoded together: frame by frame every picture would cost its whole group.
  let run: number[] = [];
  const flush = async () => {
    if (run.length < 2) {
      for (const index of run) await show(index);
      run = [];
      return;
    }
    const ascending = run[1]! > run[0]!;
    const samples = [];
    for await (const sample of film.samples(Math.min(...run), Math.max(...run) + 1)) samples.push(sample);
    for (const sample of ascending ? samples : samples.reverse()) {
      sample.setTimestamp(at++ / rate);
      await video.add(sample);
      sample.close();
    }
    run = [];
  };
  for (const index of thereAndBack(film.times.length, Math.round(seconds * rate))) {
    const turns = run.length > 1 && index - run[run.length - 1]! !== run[1]! - run[0]!;
    if (turns || run.length === RUN) await flush();
    run.push(index);
  }
  await flush();
  await output.finalize();
  film.close();
  return target.buffer!;
}
