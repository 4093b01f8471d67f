import { useEffect, useRef, useState } from 'react';
import type { FilmFacts } from '../../vision/film/openFilm';
import { createFilmClient } from './filmClient';

export interface OpenFilm {
  readonly facts: FilmFacts;
  frame(index: number): Promise<ImageBitmap>;
}

export type FilmState = { readonly kind: 'opening' } | { readonly kind: 'open'; readonly film: OpenFilm } | { readonly kind: 'failed'; readonly message: string };

/** A film kept open while a screen shows it. */
export function useFilm(blob: Blob | null | undefined): FilmState {
  const [state, setState] = useState<FilmState>({ kind: 'opening' });
  useEffect(() => {
    if (!blob) return;
    let gone = false;
    const client = createFilmClient();
    setState({ kind: 'opening' });
    client.api
      .open(blob)
      .then((facts) => {
        if (!gone) setState({ kind: 'open', film: { facts, frame: (index) => client.api.frame(index) } });
      })
      .catch((error: Error) => {
        if (!gone) setState({ kind: 'failed', message: error.message });
      });
    return () => {
      gone = true;
      client.close();
    };
  }, [blob]);
  return state;
}

/** The picture of a frame; the last one stays until the next is decoded. */
export function useFramePicture(film: OpenFilm | undefined, index: number): { bitmap: ImageBitmap; index: number } | undefined {
  const [picture, setPicture] = useState<{ bitmap: ImageBitmap; index: number }>();
  const wanted = useRef(index);
  const busy = useRef(false);
  wanted.current = index;
  useEffect(() => {
    if (!film) return;
    let gone = false;
    const load = async () => {
      if (busy.current) return;
      busy.current = true;
      // Only the newest wish is served: holding an arrow key does not pile up decoding.
      for (let got = -1; got !== wanted.current && !gone; ) {
        got = wanted.current;
        try {
          const bitmap = await film.frame(got);
          if (gone) bitmap.close();
          else setPicture({ bitmap, index: got });
        } catch {
          break;
        }
      }
      busy.current = false;
    };
    void load();
    return () => {
      gone = true;
      busy.current = false;
    };
  }, [film]);
  return picture;
}
