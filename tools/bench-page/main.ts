import { Film } from '../../src/vision/film/openFilm';

export interface DecodeTiming {
  readonly frames: number;
  readonly duration: number;
  readonly decodeSeconds: number;
}

declare global {
  interface Window {
    timeDecode(): Promise<DecodeTiming>;
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
