import { renderToStaticMarkup } from 'react-dom/server';
import { MemoryRouter } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { Finding } from '../../../core/findings/finding';
import { testFinding } from '../../../core/findings/testFinding';
import { bandsFor, MIDDLE_OF_STRIP } from '../../../core/rubric/rubric';
import type { VerdictRecord } from '../../../store/records';
import { judgedWith } from '../../judged';
import { Docket, type DocketProps } from './Docket';
import { FindingsList, type FindingsListProps } from './FindingsList';

const TIP = testFinding('tip-to-scroll');
const DRIFT = testFinding('contact-drifts', { quantity: 'contact_range', third: 'all', value: { value: 0.35, u: 0.02 } });
const STOPS = testFinding('stops-between-strokes', { quantity: 'stop_share', third: 'all', value: { value: 0.7, u: 0.1 } });

/** What a reader gets to read. */
const textOf = (markup: string): string =>
  markup
    .replace(/<[^>]+>/g, ' ')
    .replace(/\s+/g, ' ')
    .replaceAll('&#x27;', "'")
    .trim();
const nothing = () => undefined;

describe('the list of findings', () => {
  const draw = (findings: readonly Finding[], given: Partial<FindingsListProps> = {}, verdicts: readonly VerdictRecord[] = [], oneOffs: readonly Finding[] = []) => {
    const judged = judgedWith({ findings, oneOffs, unjudged: [] }, MIDDLE_OF_STRIP, verdicts);
    const props: FindingsListProps = {
      takeId: 'take',
      judged,
      chosen: judged.judgement.findings[0],
      onChoose: nothing,
      asides: [],
      lost: [],
      onDone: nothing,
      narrow: false,
      menu: null,
      ...given,
    };
    return renderToStaticMarkup(
      <MemoryRouter>
        <FindingsList {...props} />
      </MemoryRouter>,
    );
  };
  it('gives each finding its number and doubt, marks the one in hand, and says what goes with what', () => {
    const list = draw([TIP, DRIFT]);
    expect(textOf(list)).toContain('Past the middle, the tip turns to the scroll begin here? 14° ±2');
    expect(textOf(list)).toContain('with it: Within a stroke, the contact point wanders 0.35 of the strip ±0.02');
    expect(list.match(/aria-current="true"/g)).toHaveLength(1);
  });
  it('says what would help and why to begin there: all of it where there is room, one reason where there is not', () => {
    const few = textOf(draw([TIP, DRIFT]));
    expect(few).toContain('Would help: Tube glide, then Tip check');
    expect(few.match(/Worth beginning with: [^.]*;/)).not.toBeNull();
    const many = textOf(draw([TIP, DRIFT, STOPS, testFinding('uneven-shares', { quantity: 'shares_evenness', third: 'all' })]));
    expect(many).toMatch(/Worth beginning with: [^.;]+\./);
  });
  it('marks a focus, and suggests none beside it', () => {
    const list = textOf(draw([TIP, STOPS], {}, [{ takeId: 'take', fault: 'tip-to-scroll', focus: true }]));
    expect(list).toContain('focus 14°');
    expect(list).toContain('Sheet for the family');
    expect(list).not.toContain('begin here?');
    expect(list).not.toContain('Worth beginning');
  });
  it('offers no exercise for what was set aside', () => {
    expect(textOf(draw([TIP], {}, [{ takeId: 'take', fault: 'tip-to-scroll', verdict: 'dismissed' }]))).not.toContain('Would help');
  });
  it('tells apart what is no habit, what could not be judged, and what was not followed', () => {
    const list = textOf(
      draw(
        [],
        {
          asides: ['The contact point cannot be judged from this side.'],
          lost: [
            { from: 2, to: 3.04, why: 'lost' },
            { from: 5, to: 5.5, why: 'lost' },
          ] as unknown as FindingsListProps['lost'],
        },
        [],
        [testFinding('at-bridge', { strokes: [1], third: 'frog', quantity: 'contact_fraction' })],
      ),
    );
    expect(list).toContain('Seen in 1 of 5 bows, not a habit: Near the frog, too near the bridge.');
    expect(list).toContain('The contact point cannot be judged from this side.');
    expect(list).toContain('Not followed: 2.0 to 3.0 s, 5.0 to 5.5 s');
  });
});

describe('the finding in hand', () => {
  const draw = (given: Partial<DocketProps> = {}) =>
    renderToStaticMarkup(
      <Docket
        finding={TIP}
        sign="found"
        note={undefined}
        bands={bandsFor(MIDDLE_OF_STRIP, 'later')}
        since={undefined}
        echo={undefined}
        onReason={nothing}
        adjusting={false}
        onAdjusting={nothing}
        onAdjust={nothing}
        noting={false}
        isFocus={false}
        calm="Nothing to mend was found."
        onConfirm={nothing}
        onDismiss={nothing}
        onFocus={nothing}
        onNote={nothing}
        onSaveNote={nothing}
        onUndo={nothing}
        onDone={nothing}
        {...given}
      />,
    );
  it('tells number, doubt, what and in how many bows', () => {
    const text = textOf(draw());
    expect(text).toContain('14° ±2');
    expect(text).toContain('Past the middle, the tip turns to the scroll.');
    expect(text).toContain('In 4 of 5 bows that pass the middle.');
    expect(text).toContain('From this film no cause can be told.');
    expect(text).not.toContain('doubtful');
    expect(textOf(draw({ finding: testFinding('tip-to-scroll', { fitness: 'doubtful' }) }))).toContain('This view leaves it doubtful.');
  });
  it('gives the cause with what speaks for it', () => {
    const cause = testFinding('tip-to-scroll', {
      cause: 'arm-swung',
      evidence: [
        { quantity: 'bow_rotation_deg', value: 22, u: 1, says: '' },
        { quantity: 'instrument_rotation_deg', value: 4, u: 1, says: '' },
      ],
    });
    expect(textOf(draw({ finding: cause }))).toContain(
      'Why: the arm swung, not the instrument. From its squarest place to here the bow turned 22° ±1 in the room, the instrument 4° ±1.',
    );
  });
  it('asks why something was set aside, says the reason given, and can be taken back', () => {
    const asked = textOf(draw({ sign: 'dismissed', echo: { fault: TIP.fault, verdict: 'dismissed' } }));
    expect(asked).toContain('Why? 1 measured wrongly 2 good enough 3 not for now Z take it back');
    const said = textOf(draw({ sign: 'dismissed', echo: { fault: TIP.fault, verdict: 'dismissed', reason: 'good-enough' } }));
    expect(said).toContain('Set aside: good enough. Z take it back');
    expect(textOf(draw({ sign: 'confirmed', echo: { fault: TIP.fault, verdict: 'confirmed' } }))).toContain('Confirmed. Z take it back');
  });
  it('lets the teacher say where and why it is, as measured until changed', () => {
    const line = draw({ adjusting: true });
    expect(line).toMatch(/<option value="tip" selected="">past the middle/);
    expect(line).toMatch(/<option value="" selected="">not told/);
  });
  it('stretches its scale for a number beyond it', () => {
    const far = draw({ finding: testFinding('tip-to-scroll', { value: { value: 41, u: 2 } }) });
    const rings = [...far.matchAll(/<circle cx="([\d.]+)"/g)].map((m) => Number(m[1]));
    expect(Math.max(...rings)).toBeLessThan(184);
  });
  it('is calm where nothing was found', () => {
    expect(textOf(draw({ finding: undefined }))).toContain('Nothing to mend was found. Step through the bows');
  });
});
