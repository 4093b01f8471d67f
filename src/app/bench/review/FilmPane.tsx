import { useEffect, useRef, useState } from 'react';
import { nearestIndex } from '../../../core/nearestIndex';
import type { Sign } from '../../drawings/tokens';
import { COLOR, signTint } from '../../drawings/tokens';
import { type OpenFilm, useFramePicture } from '../../film/useFilm';
import type { CloseView } from './closeView';
import type { FilmOverlay } from './overlay';

export interface FilmPaneProps {
  readonly film: OpenFilm;
  readonly blob: Blob;
  readonly width: number;
  readonly height: number;
  readonly index: number;
  readonly playing: boolean;
  readonly half: boolean;
  /** Seconds between which the film runs round and round. */
  readonly loop: readonly [number, number] | undefined;
  /** A part of the picture to be shown larger. */
  readonly close: CloseView | undefined;
  readonly overlay: FilmOverlay | undefined;
  readonly angleSign: Sign;
  readonly angle: string | undefined;
  readonly caption: React.ReactNode;
  readonly clock: string;
  readonly onIndex: (index: number) => void;
  readonly onEnd: () => void;
  readonly onToggle: () => void;
}

/** The film: the exact frame when it stands, the browser's own playback while it runs, the bow drawn over both. */
export function FilmPane({ film, blob, width, height, index, playing, half, loop, close, overlay, angleSign, angle, caption, clock, onIndex, onEnd, onToggle }: FilmPaneProps) {
  const { facts } = film;
  const fit = Math.min(width / facts.width, height / facts.height);
  const w = facts.width * fit;
  const h = facts.height * fit;
  const view = closeFit(close, facts, fit);
  const picture = useFramePicture(playing ? undefined : film, index);
  const canvas = useRef<HTMLCanvasElement>(null);
  const video = useRef<HTMLVideoElement>(null);
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    const made = URL.createObjectURL(blob);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);

  useEffect(() => {
    const c = canvas.current;
    if (!c || !picture) return;
    c.width = picture.bitmap.width;
    c.height = picture.bitmap.height;
    c.getContext('2d')!.drawImage(picture.bitmap, 0, 0);
    c.dataset.frame = String(picture.index);
  }, [picture]);

  const report = useRef({ onIndex, onEnd, loop });
  report.current = { onIndex, onEnd, loop };
  const startAt = useRef(index);
  if (!playing) startAt.current = index;
  useEffect(() => {
    const v = video.current;
    if (!v || !playing) return;
    let handle = 0;
    // A millisecond on: an exact presentation time may show the frame before.
    v.currentTime = facts.times[startAt.current]! + facts.offset + 0.001;
    v.playbackRate = half ? 0.5 : 1;
    const tell: VideoFrameRequestCallback = (_, meta) => {
      const round = report.current.loop;
      if (round && meta.mediaTime - facts.offset >= round[1]) v.currentTime = round[0] + facts.offset + 0.001;
      report.current.onIndex(nearestIndex(facts.times, meta.mediaTime - facts.offset));
      handle = v.requestVideoFrameCallback(tell);
    };
    handle = v.requestVideoFrameCallback(tell);
    const ended = () => {
      const round = report.current.loop;
      if (!round) return report.current.onEnd();
      v.currentTime = round[0] + facts.offset + 0.001;
      void v.play();
    };
    v.addEventListener('ended', ended);
    v.play().catch(() => report.current.onEnd());
    return () => {
      v.pause();
      v.cancelVideoFrameCallback(handle);
      v.removeEventListener('ended', ended);
    };
  }, [playing, half, facts]);

  const at = (p: readonly [number, number]) => [p[0] * fit * view.factor + view.left, p[1] * fit * view.factor + view.top] as const;
  const P = (p: readonly [number, number]) =>
    at(p)
      .map((v) => v.toFixed(1))
      .join(' ');
  const magnified = { transform: `translate(${view.left}px, ${view.top}px) scale(${view.factor})`, transformOrigin: '0 0' };
  const labelAt = overlay && at([overlay.frog[0] * 0.62 + overlay.contact[0] * 0.38, overlay.frog[1] * 0.62 + overlay.contact[1] * 0.38]);
  return (
    <div className="relative overflow-hidden rounded-plate bg-film" style={{ width, height }}>
      <div className="absolute overflow-hidden" style={{ left: (width - w) / 2, top: (height - h) / 2, width: w, height: h }}>
        <canvas ref={canvas} data-testid="exact-frame" className="absolute inset-0 h-full w-full" style={{ visibility: playing ? 'hidden' : 'visible', ...magnified }} />
        <video
          ref={video}
          src={url}
          className="absolute inset-0 h-full w-full"
          style={{ visibility: playing ? 'visible' : 'hidden', ...magnified }}
          playsInline
          aria-label="The film"
        />
        {overlay && (
          <svg className="pointer-events-none absolute inset-0" width={w} height={h} aria-hidden>
            {(angleSign === 'found' || angleSign === 'confirmed') && (
              <path d={`M${P(overlay.contact)} L${P(overlay.frog)} L${P(overlay.squareFrog)} Z`} fill={signTint(angleSign)} opacity={0.62} />
            )}
            <g strokeLinecap="round" fill="none">
              <path d={`M${P(overlay.squareFrog)} L${P(overlay.squareTip)}`} stroke={COLOR.film} strokeWidth={3.4} opacity={0.5} />
              <path d={`M${P(overlay.squareFrog)} L${P(overlay.squareTip)}`} stroke="#fff" strokeWidth={2} strokeDasharray="2 6" />
              <path d={`M${P(overlay.frog)} L${P(overlay.tip)}`} stroke={COLOR.film} strokeWidth={3.6} opacity={0.5} />
              <path d={`M${P(overlay.frog)} L${P(overlay.tip)}`} stroke="#fff" strokeWidth={1.8} />
            </g>
            <circle cx={at(overlay.contact)[0]} cy={at(overlay.contact)[1]} r={5} fill="#fff" stroke={COLOR.film} strokeWidth={2.2} />
            {angle && labelAt && (
              <text x={labelAt[0]} y={labelAt[1]! + 26} fontSize={20} fontWeight={700} fill="#fff" stroke={COLOR.film} strokeWidth={3.4} paintOrder="stroke" textAnchor="middle">
                {angle}
              </text>
            )}
          </svg>
        )}
      </div>
      <span className="absolute bottom-2.5 left-3 inline-flex h-[26px] items-center gap-2 rounded-plate bg-film/85 px-3 text-white">{caption}</span>
      <button
        type="button"
        onClick={onToggle}
        aria-label={playing ? 'Hold the film' : 'Run the film'}
        className="absolute right-3 bottom-2.5 inline-flex h-[26px] items-center gap-4 rounded-plate bg-film/85 px-3 text-white"
      >
        <svg width={12} height={12} viewBox="0 0 12 12" aria-hidden>
          {playing ? <path d="M2 1 H5 V11 H2 Z M7 1 H10 V11 H7 Z" fill="#fff" /> : <path d="M2 0.5 L11 6 L2 11.5 Z" fill="#fff" />}
        </svg>
        <span>{[half ? 'half speed' : playing ? 'running' : 'held', ...(loop ? ['this bow again'] : []), ...(close ? ['close'] : [])].join(', ')}</span>
        <span>{clock}</span>
      </button>
    </div>
  );
}

/** How far the picture is moved and magnified so that the close view fills the pane; its edges stay outside. */
function closeFit(close: CloseView | undefined, facts: { readonly width: number; readonly height: number }, fit: number) {
  if (!close) return { factor: 1, left: 0, top: 0 };
  const { factor, middle } = close;
  const shift = (place: number, size: number) => Math.min(0, Math.max(size * fit * (1 - factor), (size * fit) / 2 - place * fit * factor));
  return { factor, left: shift(middle[0], facts.width), top: shift(middle[1], facts.height) };
}
