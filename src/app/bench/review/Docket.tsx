import { useEffect, useRef, useState } from 'react';
import { rowOf } from '../../../core/findings/faults';
import type { CauseId, Finding } from '../../../core/findings/finding';
import type { SinceLast } from '../../../core/progress/sinceLast';
import { faultEdges, goodEdges, isSharp } from '../../../core/rubric/band';
import { DISMISSAL_REASONS, type DismissalReason } from '../../../core/rubric/dismissals';
import type { Bands } from '../../../core/rubric/rubric';
import type { Adjustment, Verdict } from '../../../store/records';
import { BandBar } from '../../drawings/BandBar';
import { Drop } from '../../drawings/signs';
import { type Sign, signText } from '../../drawings/tokens';
import { CAUSES, causeInWords, faultTitle, findingInWords, shareInWords, sinceInWords, valueInWords } from '../../findingWords';
import { Button, KeyCap } from '../../ui/Button';

/** What was just said of a finding. */
export interface Echo {
  readonly fault: string;
  readonly verdict: Verdict;
  readonly reason?: DismissalReason;
}

export interface DocketProps {
  readonly finding: Finding | undefined;
  readonly sign: Sign;
  readonly note: string | undefined;
  readonly bands: Bands;
  /** Against the last take, and when that was filmed. */
  readonly since: { readonly last: SinceLast; readonly when: string } | undefined;
  readonly echo: Echo | undefined;
  readonly onReason: (reason: DismissalReason) => void;
  readonly adjusting: boolean;
  readonly onAdjusting: (open: boolean) => void;
  readonly onAdjust: (adjusted: Adjustment) => void;
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

/** On a small screen lower, so that the times under the bows still show. */
const HEIGHT = 'h-[152px] max-[1269px]:h-[138px]';

/** The finding in hand: its number against the band, what and why in words, and the verdict. */
export function Docket(props: DocketProps) {
  const {
    finding,
    sign,
    note,
    bands,
    since,
    echo,
    onReason,
    adjusting,
    onAdjusting,
    onAdjust,
    noting,
    isFocus,
    onConfirm,
    onDismiss,
    onFocus,
    onNote,
    onSaveNote,
    onUndo,
    onDone,
  } = props;
  if (!finding) {
    return (
      <section className={`flex ${HEIGHT} flex-col rounded-card border border-rule bg-sheet px-4 py-3`} aria-label="Findings">
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
    <section className={`grid ${HEIGHT} grid-cols-[184px_1fr] gap-x-4 rounded-card border border-rule bg-sheet px-4 py-2`} aria-label="The finding in hand">
      <div>
        <p className="font-serif text-focus font-bold whitespace-nowrap" style={{ color: signText(sign === 'dismissed' ? 'within' : sign) }}>
          {value}{' '}
          <span className="text-name font-normal text-ink">
            {doubt}
            {value.endsWith('°') && '°'}
          </span>
        </p>
        <Bar finding={finding} sign={sign} bands={bands} before={since?.last.before.value} />
        {since && <p className="text-label leading-4 text-sea">{sinceInWords(finding, since.last, since.when)}</p>}
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
            {adjusting ? (
              <AdjustLine finding={finding} onAdjust={onAdjust} onClose={() => onAdjusting(false)} />
            ) : echo ? (
              <EchoLine echo={echo} onReason={onReason} onUndo={onUndo} />
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
        <div className="mt-auto flex gap-1.5">
          <Button kind="main" keyCap="C" aria-pressed={sign === 'confirmed'} onClick={onConfirm}>
            Confirm
          </Button>
          <Button keyCap="X" aria-pressed={sign === 'dismissed'} onClick={onDismiss}>
            Not so
          </Button>
          <Button keyCap="A" aria-pressed={adjusting} onClick={() => onAdjusting(!adjusting)}>
            Adjust
          </Button>
          <Button keyCap="F" aria-pressed={isFocus} onClick={onFocus}>
            {isFocus ? 'In focus' : 'Focus'}
          </Button>
          <Button keyCap="N" onClick={() => onNote(!noting)}>
            Note
          </Button>
        </div>
      </div>
      <p className="sr-only">{findingInWords(finding)}</p>
    </section>
  );
}

/** The number against the rubric's band, on the scale the catalogue gives it. */
function Bar({ finding, sign, bands, before }: { finding: Finding; sign: Sign; bands: Bands; before: number | undefined }) {
  const fault = rowOf(finding);
  const band = fault?.band(bands);
  if (!fault || !band) return null;
  const { range, ends } = fault.scale;
  const past = Math.abs(finding.value.value) * 1.2;
  return (
    <BandBar
      width={184}
      range={[range[0] < 0 ? Math.min(range[0], -past) : range[0], Math.max(range[1], past)]}
      good={goodEdges(band)}
      fault={isSharp(band) ? [] : faultEdges(band)}
      value={finding.value}
      before={before}
      sign={sign}
      ends={ends}
      percent={fault.unit === 'share'}
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

const REASONS: Readonly<Record<DismissalReason, string>> = { 'measured-wrongly': 'measured wrongly', 'good-enough': 'good enough', 'not-now': 'not for now' };

/** What was said, how to take it back, and for what was set aside: why. */
function EchoLine({ echo, onReason, onUndo }: { echo: Echo; onReason: (reason: DismissalReason) => void; onUndo: () => void }) {
  const asks = echo.verdict === 'dismissed' && !echo.reason;
  return (
    <p className="flex h-6 items-center gap-2 truncate text-soft" role="status">
      <span>{echo.verdict === 'confirmed' ? 'Confirmed.' : echo.reason ? `Set aside: ${REASONS[echo.reason]}.` : 'Why?'}</span>
      {asks &&
        DISMISSAL_REASONS.map((reason, i) => (
          <button key={reason} type="button" className="inline-flex items-center gap-1 text-ink" onClick={() => onReason(reason)}>
            <KeyCap label={String(i + 1)} /> {REASONS[reason]}
          </button>
        ))}
      <button type="button" className="inline-flex items-center gap-1 text-sea" onClick={onUndo}>
        <KeyCap label="Z" /> take it back
      </button>
    </p>
  );
}

const PLACES = { frog: 'near the frog', middle: 'in the middle', tip: 'past the middle', all: 'along the whole bow' } as const;

/** Where the teacher sees the fault, and what they hold for its cause. Confirms the finding as they have it. */
function AdjustLine({ finding, onAdjust, onClose }: { finding: Finding; onAdjust: (adjusted: Adjustment) => void; onClose: () => void }) {
  const first = useRef<HTMLSelectElement>(null);
  useEffect(() => first.current?.focus(), []);
  const field = 'h-7 rounded-card border border-soft bg-white px-1';
  const change = (part: Adjustment) => onAdjust({ third: finding.third, ...(finding.cause ? { cause: finding.cause } : {}), ...part });
  const leave = (event: React.KeyboardEvent) => (event.key === 'Escape' || event.key === 'Enter') && onClose();
  return (
    <p className="mt-1 flex h-7 items-center gap-3">
      <label className="flex items-center gap-2">
        I see it
        <select
          ref={first}
          aria-label="Where the fault shows"
          className={field}
          value={finding.third}
          onChange={(e) => change({ third: e.target.value as Finding['third'] })}
          onKeyDown={leave}
        >
          {Object.entries(PLACES).map(([third, words]) => (
            <option key={third} value={third}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2">
        because
        <select
          aria-label="What causes it"
          className={`${field} max-w-[180px]`}
          value={finding.cause ?? ''}
          onChange={(e) => change({ cause: e.target.value as CauseId })}
          onKeyDown={leave}
        >
          <option value="">not told</option>
          {Object.entries(CAUSES).map(([cause, words]) => (
            <option key={cause} value={cause}>
              {words}
            </option>
          ))}
        </select>
      </label>
    </p>
  );
}
