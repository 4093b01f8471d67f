import { useRef } from 'react';
import type { Marks } from '../../../core/formats/marks';
import { ZOOMS } from '../../../core/geometry/camera';
import { sizesOf } from '../../../core/instrument/dimensions';
import { FAMILIES, type Family } from '../../../core/instrument/family';
import { TASK_FACTS, TASKS, type Task } from '../../../core/take/task';
import { Button } from '../../ui/Button';

export interface InstrumentCardProps {
  readonly marks: Marks;
  readonly onInstrument: (family: Family, size: string) => void;
  readonly onSide: (left: boolean) => void;
  /** Undefined where nobody can say. */
  readonly onZoom: (zoom: number | undefined) => void;
  /** What the marks say of it where nobody did. */
  readonly zoomByMarks: number | undefined;
  /** The film notes it, and is believed where nobody says. */
  readonly zoomNoted: boolean;
  readonly task: Task;
  readonly onTask: (task: Task) => void;
  readonly onLoad: (file: File) => void;
  readonly onSave: () => void;
  /** Left out while something found waits for a yes. */
  readonly measure?: { readonly disabled: boolean; readonly now: () => void };
}

const select = 'h-8 min-w-0 flex-1 rounded-card border border-soft bg-white px-2';

/** What is played on and what is played; marks from and to a file; measure. */
export function InstrumentCard({ marks, onInstrument, onSide, onZoom, zoomByMarks, zoomNoted, task, onTask, onLoad, onSave, measure }: InstrumentCardProps) {
  const file = useRef<HTMLInputElement>(null);
  const { family, size, side } = marks.instrument;
  const { zoom } = marks.video;
  const zooms = [...new Set([...ZOOMS, ...(zoom === undefined ? [] : [zoom])])].sort((a, b) => a - b);
  return (
    <div className="mt-3 rounded-card border border-rule bg-sheet p-4">
      <div className="mb-3 flex gap-2">
        <select aria-label="Instrument" className={select} value={family} onChange={(e) => onInstrument(e.target.value as Family, sizesOf(e.target.value as Family)[0]!)}>
          {FAMILIES.map((f) => (
            <option key={f}>{f}</option>
          ))}
        </select>
        <select aria-label="Size" className={select} value={size} onChange={(e) => onInstrument(family, e.target.value)}>
          {sizesOf(family).map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
      </div>
      <div className="mb-3 flex items-center gap-2">
        <label className="flex flex-1 items-center gap-2 whitespace-nowrap">
          <input type="checkbox" className="h-4 w-4 accent-sea" checked={side === 'left'} onChange={(e) => onSide(e.target.checked)} />
          left-handed
        </label>
        <select
          aria-label="How far the lens was zoomed"
          title="What the phone's camera showed when the film was taken. Not said, it is taken from the film's notes or from the marks where they tell, else for 1×."
          className={select}
          value={zoom ?? ''}
          onChange={(e) => onZoom(e.target.value === '' ? undefined : Number(e.target.value))}
        >
          <option value="">{zoomNoted ? 'as the film notes it' : zoomByMarks === undefined ? 'zoom not said' : `seems ${zoomByMarks}× zoom`}</option>
          {zooms.map((z) => (
            <option key={z} value={z}>
              {z < 1 ? `${z}× wide lens` : `${z}× zoom`}
            </option>
          ))}
        </select>
      </div>
      <label className="mb-3 flex items-center gap-2">
        <span className="shrink-0">Played:</span>
        <select aria-label="What is played" className={select} value={task} onChange={(e) => onTask(e.target.value as Task)}>
          {TASKS.map((t) => (
            <option key={t} value={t}>
              {TASK_FACTS[t].name}
            </option>
          ))}
        </select>
      </label>
      {measure && (
        <>
          <p className="mb-3 text-label text-soft">
            {measure.disabled
              ? 'Six points of the instrument and the tip of the bow are enough to begin; what is drawn dashed is a guess to accept or to move.'
              : 'Dashed is a guess: accept it or move it.'}
          </p>
          <Button kind="main" keyCap="M" className="w-full justify-center" disabled={measure.disabled} onClick={measure.now}>
            Measure now
          </Button>
        </>
      )}
      <div className="mt-2 flex justify-between">
        <button type="button" className="text-label text-sea underline" onClick={() => file.current?.click()}>
          Take marks from a file
        </button>
        <button type="button" className="text-label text-sea underline disabled:opacity-50" disabled={marks.frames.length === 0} onClick={onSave}>
          Save marks as a file
        </button>
      </div>
      <input
        ref={file}
        type="file"
        accept=".json"
        className="hidden"
        aria-label="Marks file"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          event.target.value = '';
          if (chosen) onLoad(chosen);
        }}
      />
    </div>
  );
}
