import { Film } from '../../src/vision/film/openFilm';
import { lengthen } from './thereAndBack';

export interface DecodeTiming {
  readonly frames: number;
  readonly duration: number;
  readonly decodeSeconds: number;
}

declare global {
  interface Window {
    timeDecode(): Promise<DecodeTiming>;
    /** Downloads the film made longer. */
    lengthenFilm(seconds: number): Promise<void>;
  }
}

/** Plain decoding to brightness, nothing else. */
window.timeDecode = async () => {
  const film = await Film.open(document.querySelector<HTMLInputElement>('#film')!.files![0]!);
  const start = performance.now();
  let frames = 0;
  for await (const frame of film.forward(0, film.times.length)) frames += frame.luma.length > 0 ? 1 : 0;
  const decodeSeconds = (performance.now() - start) / 1000;
  const { duration } = film.facts;
  film.close();
  return { frames, duration, decodeSeconds };
};

window.lengthenFilm = async (seconds) => {
  const longer = await lengthen(document.querySelector<HTMLInputElement>('#film')!.files![0]!, seconds);
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([longer], { type: 'video/mp4' }));
  link.download = 'longer.mp4';
  link.click();
};
