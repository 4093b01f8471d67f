import { useEffect, useState } from 'react';
import { type Band, goodEdges } from '../../core/rubric/band';
import { BAND_FACTS, type BandName } from '../../core/rubric/bandFacts';
import type { RuleRecord } from '../../core/rubric/dismissals';
import type { BandPatch } from '../../core/rubric/editing';
import { BandSpan } from '../drawings/BandSpan';
import { Button } from '../ui/Button';
import { useWidth } from '../ui/useWidth';

/** Widths of the drawing of a band, px. */
const MOST_WIDTH = 400;
const LEAST_WIDTH = 120;

const UNITS = { deg: '°', share: '', shoulders: '', fingers: '', plain: '', ms: ' ms', mm: ' mm' } as const;

/** One band: what it is about, its drawing, its numbers, and a suggestion where the teacher's words ask for one. */
export function BandRow({
  name,
  band,
  before,
  found,
  problem,
  records,
  onChange,
}: {
  name: BandName;
  band: Band;
  before: Band | undefined;
  found: readonly number[];
  problem: string | undefined;
  records: readonly RuleRecord[];
  onChange: (patch: BandPatch) => void;
}) {
  const facts = BAND_FACTS[name];
  const [room, width] = useWidth<HTMLDivElement>(MOST_WIDTH);
  const suggested = Math.max(0, ...records.map((r) => r.suggested ?? 0));
  const [from, to] = goodEdges(band);
  const field = { name: facts.name, step: facts.step, unit: UNITS[facts.unit] };
  const edge = Number(suggested.toFixed(facts.step < 0.1 ? 2 : 0));
  return (
    <li className="border-t border-rule py-1.5">
      <div className="grid grid-cols-[210px_minmax(0,1fr)_auto] items-center gap-4">
        <div>
          <p className="font-semibold">{facts.name}</p>
          <p className="text-label text-soft">{facts.what}</p>
        </div>
        <div ref={room} className="overflow-hidden">
          <BandSpan
            width={Math.max(LEAST_WIDTH, Math.min(MOST_WIDTH, width))}
            range={facts.range}
            band={band}
            before={before}
            found={found}
            label={`${facts.name}: good from ${from} to ${to}`}
          />
        </div>
        <div className="flex items-center gap-3 text-label">
          {'middle' in band && <NumberField {...field} label="middle" value={band.middle} onValue={(middle) => onChange({ middle })} />}
          {'least' in band ? (
            <NumberField {...field} label="good from" value={band.least} onValue={(least) => onChange({ least })} />
          ) : (
            <NumberField {...field} label={'middle' in band ? 'good within' : 'good up to'} value={band.good} onValue={(good) => onChange({ good })} />
          )}
          <NumberField {...field} label={'least' in band ? 'fault below' : 'fault beyond'} value={band.fault} onValue={(fault) => onChange({ fault })} />
        </div>
      </div>
      {problem && (
        <p role="alert" className="text-label text-madder">
          {problem}
        </p>
      )}
      {suggested > 0 && edge !== band.fault && (
        <p className="flex items-center gap-3 text-label">
          You often said “good enough” here. A fault {'least' in band ? 'below' : 'beyond'} {edge}
          {UNITS[facts.unit]} would follow your word.
          <Button onClick={() => onChange({ fault: edge })}>Try it</Button>
        </p>
      )}
    </li>
  );
}

/** A number that may be half written: it is told once it is one. */
function NumberField({ label, name, value, step, unit, onValue }: { label: string; name: string; value: number; step: number; unit: string; onValue: (value: number) => void }) {
  const [text, setText] = useState(String(value));
  useEffect(() => setText((t) => (Number(t) === value ? t : String(value))), [value]);
  return (
    <label className="flex flex-col">
      <span className="text-soft">{label}</span>
      <span className="flex items-center gap-0.5">
        <input
          type="number"
          aria-label={`${name}, ${label}`}
          className="h-7 w-[72px] rounded-card border border-soft bg-white px-1 text-body"
          value={text}
          step={step}
          onChange={(e) => {
            setText(e.target.value);
            if (e.target.value !== '' && Number.isFinite(Number(e.target.value))) onValue(Number(e.target.value));
          }}
          onBlur={() => setText(String(value))}
        />
        <span className="w-4">{unit}</span>
      </span>
    </label>
  );
}
