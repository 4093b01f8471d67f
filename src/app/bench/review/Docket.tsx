import { useEffect, useRef, useState } from 'react';
import { faultById } from '../../../core/findings/faults';
import { faultEdges, goodEdges } from '../../../core/findings/faults/fault';
import type { Finding } from '../../../core/findings/finding';
import type { Bands } from '../../../core/rubric/rubric';
import { BandBar } from '../../drawings/BandBar';
import { Drop } from '../../drawings/signs';
import { type Sign, signText } from '../../drawings/tokens';
import { causeInWords, faultTitle, findingInWords, shareInWords, valueInWords } from '../../findingWords';
import { Button } from '../../ui/Button';

export interface DocketProps {
  readonly finding: Finding | undefined;
  readonly sign: Sign;
  readonly note: string | undefined;
  readonly bands: Bands;
  readonly echo: string | undefined;
  readonly noting: boolean;
  readonly isFocus: boolean;
  readonly calm: string;
  readonly onConfirm: () => void;
  readonly onDismiss: () => void;
  readonly onFocus: () => void;
  readonly onNote: (open: boolean) => void;
  readonly onSaveNote: (text: string) => void;
  readonly onUndo: () => void;
  readonly onDone: () => void;
}

/** The finding in hand: its number against the band, what and why in words, and the verdict. */
export function Docket(props: DocketProps) {
  const { finding, sign, note, bands, echo, noting, isFocus, onConfirm, onDismiss, onFocus, onNote, onSaveNote, onUndo, onDone } = props;
  if (!finding) {
    return (
      <section className="flex h-[152px] flex-col rounded-card border border-rule bg-sheet px-4 py-3" aria-label="Findings">
        <h2 className="text-name font-bold">{props.calm}</h2>
        <p className="mt-1 flex-1 text-soft">Step through the bows to look for yourself; the drawings show every number with its doubt.</p>
        <div className="flex">
          <Button kind="main" onClick={onDone}>
            Done with this take
          </Button>
        </div>
      </section>
    );
  }
  const { value, doubt } = valueInWords(finding);
  const cause = causeInWords(finding);
  return (
    <section className="grid h-[152px] grid-cols-[184px_1fr] gap-x-4 rounded-card border border-rule bg-sheet px-4 py-2" aria-label="The finding in hand">
      <div>
        <p className="font-serif text-focus font-bold whitespace-nowrap" style={{ color: signText(sign === 'dismissed' ? 'within' : sign) }}>
          {value}{' '}
          <span className="text-name font-normal text-ink">
            {doubt}
            {value.endsWith('°') && '°'}
          </span>
        </p>
        <Bar finding={finding} sign={sign} bands={bands} />
      </div>
      <div className="flex min-w-0 flex-col">
        <h2 className="flex items-center gap-2 text-name font-bold">
          <Drop sign={sign} /> <span className="truncate">{faultTitle(finding)}</span>
        </h2>
        {noting ? (
          <NoteField value={note ?? ''} onSave={onSaveNote} onClose={() => onNote(false)} />
        ) : (
          <>
            <p className="truncate">
              {shareInWords(finding)} {finding.fitness === 'doubtful' && <span className="text-soft">This view leaves it doubtful.</span>}
              {note && <span className="text-soft"> Note: {note}</span>}
            </p>
            {echo ? (
              <p className="truncate text-soft" role="status">
                {echo}{' '}
                <button type="button" className="text-sea underline" onClick={onUndo}>
                  Z
                </button>{' '}
                takes it back.
              </p>
            ) : (
              <p className="line-clamp-2">
                {cause ? (
                  <>
                    <b className="font-semibold">Why:</b> {cause.cause}. {cause.evidence}
                  </>
                ) : (
                  <span className="text-soft">From this film no cause can be told.</span>
                )}
              </p>
            )}
          </>
        )}
        <div className="mt-auto flex gap-2">
          <Button kind="main" keyCap="C" aria-pressed={sign === 'confirmed'} onClick={onConfirm}>
            Confirm
          </Button>
          <Button keyCap="X" aria-pressed={sign === 'dismissed'} onClick={onDismiss}>
            Not so
          </Button>
          <Button keyCap="F" aria-pressed={isFocus} onClick={onFocus}>
            {isFocus ? 'In focus' : 'Focus'}
          </Button>
          <Button keyCap="N" onClick={() => onNote(!noting)}>
            Note
          </Button>
          <span className="flex-1" />
          <Button kind="quiet" aria-label="Done with this take" onClick={onDone}>
            Done
          </Button>
        </div>
      </div>
      <p className="sr-only">{findingInWords(finding)}</p>
    </section>
  );
}

/** The number against the rubric's band, on the scale the catalogue gives it. */
function Bar({ finding, sign, bands }: { finding: Finding; sign: Sign; bands: Bands }) {
  const fault = faultById(finding.fault);
  const band = fault?.band(bands);
  if (!fault || !band) return null;
  const { range, ends } = fault.scale;
  const past = Math.abs(finding.value.value) * 1.2;
  return (
    <BandBar
      width={184}
      range={[range[0] < 0 ? Math.min(range[0], -past) : range[0], Math.max(range[1], past)]}
      good={goodEdges(band)}
      fault={band.good === band.fault ? [] : faultEdges(band)}
      value={finding.value}
      sign={sign}
      ends={ends}
      label={findingInWords(finding)}
    />
  );
}

function NoteField({ value, onSave, onClose }: { value: string; onSave: (text: string) => void; onClose: () => void }) {
  const [text, setText] = useState(value);
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => field.current?.focus(), []);
  return (
    <textarea
      ref={field}
      aria-label="Note"
      className="mt-1 h-11 resize-none rounded-card border border-soft bg-white px-2 py-1"
      value={text}
      placeholder="Your words. Enter keeps them, Escape leaves."
      onChange={(e) => setText(e.target.value)}
      onBlur={() => onSave(text)}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && !event.shiftKey) {
          event.preventDefault();
          onSave(text);
          onClose();
        }
        if (event.key === 'Escape') {
          setText(value);
          onClose();
        }
      }}
    />
  );
}
