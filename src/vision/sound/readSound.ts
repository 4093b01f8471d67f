import { AudioSampleSink, type Input } from 'mediabunny';

/** The sound of a film, one channel, beginning with its first picture. */
export interface Sound {
  /** -1..1 */
  readonly samples: Float32Array;
  /** Samples a second. */
  readonly rate: number;
}

/** Longer sound is not listened to (seconds): clips are minutes long. */
const LONGEST = 600;

/**
 * Reads the sound of an opened film as one channel, in the clock of its pictures (`offset` = time of the first in the
 * file's clock, seconds). Undefined without sound, or with sound this browser cannot decode: a clip then loses only
 * what is heard.
 */
export async function readSound(input: Input, offset: number): Promise<Sound | undefined> {
  const track = await input.getPrimaryAudioTrack();
  if (!track || !(await track.canDecode())) return undefined;
  const rate = track.sampleRate;
  const parts: { at: number; data: Float32Array }[] = [];
  let end = 0;
  try {
    for await (const sample of new AudioSampleSink(track).samples(offset, offset + LONGEST)) {
      const data = new Float32Array(sample.numberOfFrames);
      const plane = new Float32Array(sample.numberOfFrames);
      for (let channel = 0; channel < sample.numberOfChannels; channel++) {
        sample.copyTo(plane, { planeIndex: channel, format: 'f32-planar' });
        for (let i = 0; i < plane.length; i++) data[i]! += plane[i]! / sample.numberOfChannels;
      }
      const at = Math.round((sample.timestamp - offset) * rate);
      sample.close();
      parts.push({ at, data });
      end = Math.max(end, at + data.length);
    }
  } catch {
    // A film that breaks off still has the beginning of its sound.
  }
  if (end <= 0) return undefined;
  const samples = new Float32Array(end);
  for (const { at, data } of parts) samples.set(at < 0 ? data.subarray(-at) : data, Math.max(0, at));
  return { samples, rate };
}
