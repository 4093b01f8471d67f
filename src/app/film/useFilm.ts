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
  const wish = useRef<{ film: OpenFilm; index: number }>(undefined);
  const busy = useRef(false);
  useEffect(() => {
    wish.current = film ? { film, index } : undefined;
    if (busy.current) return;
    const serve = async () => {
      busy.current = true;
      // Only the newest wish is served: holding an arrow key does not pile up decoding.
      for (let served: typeof wish.current; served !== wish.current && wish.current; ) {
        served = wish.current;
        try {
          const bitmap = await served.film.frame(served.index);
          setPicture({ bitmap, index: served.index });
        } catch {
          // A film that was closed meanwhile; the picture before it stays.
        }
      }
      busy.current = false;
    };
    void serve();
  }, [film, index]);
  useEffect(
    () => () => {
      wish.current = undefined;
    },
    [],
  );
  return picture;
}
