import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import type { Finding } from '../../../core/findings/finding';
import type { DoubtfulSpan } from '../../../core/take/doubt';
import { Drop } from '../../drawings/signs';
import { exercisesOf, faultTitle, findingInWords } from '../../findingWords';
import type { Judged } from '../../judged';
import { KeyCap } from '../../ui/Button';

/** So many findings have room for rows of their usual height beside two lines of help. */
const ROOMY = 3;

export interface FindingsListProps {
  readonly takeId: string;
  readonly judged: Judged | undefined;
  readonly chosen: Finding | undefined;
  readonly onChoose: (index: number) => void;
  /** What could not be judged, and why. */
  readonly asides: readonly string[];
  readonly lost: readonly DoubtfulSpan[];
  readonly onDone: () => void;
  readonly narrow: boolean;
  /** What can be saved, at the end of the head line. */
  readonly menu: React.ReactNode;
}

/** All findings of a take, what was seen too rarely, what could not be judged or followed, and what would help. */
export function FindingsList({ takeId, judged, chosen, onChoose, asides, lost, onDone, narrow, menu }: FindingsListProps) {
  const findings = judged?.judgement.findings ?? [];
  const row = useRef<HTMLButtonElement>(null);
  // Where the list is longer than its room, the finding in hand is in sight.
  useEffect(() => {
    row.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen?.fault, narrow]);
  const suggested = new Map(judged?.suggested.map((s) => [s.fault, s.reasons]));
  const aside = 'flex items-start gap-2 border-t border-rule py-1 text-soft';
  // Four findings show whole where what would help keeps to one line.
  const many = findings.length > ROOMY;
  const worth = chosen && suggested.get(chosen.fault);
  // Always in sight: what to do about it matters more than the last of a long list.
  const help = chosen && judged?.signOf(chosen) !== 'dismissed' && (
    <p className={`shrink-0 border-t border-rule py-1 ${many && !narrow ? 'truncate' : ''}`}>
      <b className="font-semibold">Would help:</b> {exercisesOf(chosen).join(', then ')}
      {worth && judged?.foci.length === 0 && <span className="text-soft"> Worth beginning with: {(many ? worth.slice(0, 1) : worth).join('; ')}.</span>}
    </p>
  );
  return (
    <section className={`flex min-w-0 flex-col ${narrow ? '' : 'max-h-[157px]'}`} aria-label="Also found">
      <div className="flex shrink-0 items-center justify-between text-label text-soft">
        <span>{findings.length > 1 ? 'All findings' : 'Also seen'}</span>
        <span className="flex items-center gap-4">
          {findings.length > 1 && (
            <span className="inline-flex items-center gap-2">
              <KeyCap label="↓" /> next finding
            </span>
          )}
          {(judged?.foci.length ?? 0) > 0 && (
            <Link className="font-semibold text-sea underline" to={`/takes/${takeId}/sheet`}>
              Sheet for the family
            </Link>
          )}
          {menu}
          {findings.length > 0 && (
            <button type="button" className="font-semibold text-sea underline" aria-label="Done with this take" onClick={onDone}>
              Done
            </button>
          )}
        </span>
      </div>
      <div className={`overflow-y-auto ${narrow ? 'max-h-[28px]' : 'min-h-0'}`}>
        {findings.map((f, i) => (
          <button
            key={f.fault}
            type="button"
            onClick={() => onChoose(i)}
            ref={f === chosen ? row : undefined}
            aria-current={f === chosen}
            className={`flex ${many ? 'h-[26px]' : 'h-7'} w-full items-center gap-2 border-t border-rule text-left ${f === chosen ? 'font-semibold' : ''}`}
          >
            <Drop sign={judged!.signOf(f)} />
            <span className={`flex-1 truncate ${judged!.links.has(f.fault) ? 'pl-4' : ''}`}>
              {judged!.links.has(f.fault) && <span className="text-soft">with it: </span>}
              {faultTitle(f).replace(/\.$/, '')}
            </span>
            {!judged!.foci.includes(f) && judged!.foci.length === 0 && suggested.has(f.fault) && (
              <span className="rounded-card border border-sea px-1.5 text-label text-sea" title={suggested.get(f.fault)!.join('; ')}>
                begin here?
              </span>
            )}
            {judged!.foci.includes(f) && <span className="rounded-card bg-sea px-1.5 text-label font-semibold text-white">focus</span>}
            <span className="text-soft">{findingInWords(f)}</span>
          </button>
        ))}
        {judged?.judgement.oneOffs.map((f) => (
          <p key={`once-${f.fault}`} className="flex h-7 items-center gap-2 border-t border-rule text-soft">
            <span className="flex-1 truncate">
              Seen in {f.strokes.length} of {f.eligible} bows, not a habit: {faultTitle(f)}
            </span>
          </p>
        ))}
        {asides.map((why) => (
          <p key={why} className={aside}>
            <Drop sign="unjudged" /> {why}
          </p>
        ))}
        {lost.length > 0 && (
          <p className={aside}>
            <Drop sign="unjudged" />
            <span>
              Not followed:{' '}
              {lost
                .slice(0, 3)
                .map((s) => `${s.from.toFixed(1)} to ${s.to.toFixed(1)} s`)
                .join(', ')}
              .{' '}
              <Link className="text-sea underline" to={`/takes/${takeId}/prepare`}>
                One more mark mends it
              </Link>
            </span>
          </p>
        )}
        {narrow && help}
      </div>
      {!narrow && help}
    </section>
  );
}
