import { useState } from 'react';
import { toast } from 'sonner';
import { eventsToText } from '../../../core/formats/eventsJson';
import { findingsToText } from '../../../core/formats/findingsJson';
import { marksToText } from '../../../core/formats/marks';
import { measuresToCsv } from '../../../core/formats/measuresCsv';
import { straysToCsv } from '../../../core/formats/straysCsv';
import type { Stroke } from '../../../core/strokes/stroke';
import { eventsOf } from '../../../core/take/analyse';
import type { MeasuresRecord } from '../../../store/records';
import { stageIn, type TakeWithStudent } from '../../../store/takes';
import { evidenceClip, evidenceStill } from '../../evidence/evidence';
import type { OpenFilm } from '../../film/useFilm';
import type { Judged } from '../../judged';
import { saveBlob, saveFile } from '../../ui/saveFile';
import { ExportMenu } from './ExportMenu';

interface TakeExportsProps {
  readonly entry: TakeWithStudent;
  readonly record: MeasuresRecord;
  readonly film: OpenFilm;
  readonly judged: Judged | undefined;
  /** Frame shown, and the bow it is part of with a breath before and after, seconds. */
  readonly index: number;
  readonly stroke: Stroke | undefined;
  readonly span: readonly [from: number, to: number] | undefined;
}

/** What can be saved of a measured take, named after it. */
export function TakeExports({ entry, record, film, judged, index, stroke, span }: TakeExportsProps) {
  const [covered, setCovered] = useState(true);
  const { take } = entry;
  const { measures } = record;
  const name = take.title.replace(/[^\w-]+/g, '-');
  const heardWith = { shift: take.soundShift, task: take.task };
  const { t } = measures.frames[index]!;
  /** Saves a picture or clip once it is made; says why when it cannot be. */
  const give = async (making: Promise<Blob>, fileName: string) => {
    try {
      saveBlob(fileName, await making);
    } catch (error) {
      toast(`It could not be made: ${(error as Error).message}`);
    }
  };
  return (
    <ExportMenu
      covered={covered}
      onCover={setCovered}
      pictures={[
        { label: 'This moment, PNG', action: () => void give(evidenceStill(film, measures, index, { covered }), `${name}.${t.toFixed(2)}s.png`) },
        ...(span && stroke
          ? [{ label: 'This bow at half speed, WebM', action: () => void give(evidenceClip(film, measures, span, 0.5, { covered }), `${name}.bow-${stroke.index + 1}.webm`) }]
          : []),
      ]}
      files={[
        { label: 'Measures, CSV', action: () => saveFile(`${name}.measures.csv`, measuresToCsv(measures.frames), 'text/csv') },
        { label: 'Bows, JSON', action: () => saveFile(`${name}.events.json`, eventsToText(measures, heardWith), 'application/json') },
        { label: 'Stray strings, CSV', action: () => saveFile(`${name}.strays.csv`, straysToCsv(eventsOf(measures, heardWith).strays), 'text/csv') },
        {
          label: 'Findings, JSON',
          action: () => judged && saveFile(`${name}.findings.json`, findingsToText(judged.judgement, judged.rubric, stageIn(entry)), 'application/json'),
        },
        { label: 'Marks, JSON', action: () => saveFile(`${name}.marks.json`, marksToText(record.marks), 'application/json') },
      ]}
    />
  );
}
