import { sideSign } from '../instrument/family';
import { stringLevels, stringLines } from '../instrument/strings';
import { levelCourses } from '../levels/levelCourse';
import { twoStringTouches } from '../levels/stringChanges';
import { strokeMotions } from '../strokes/armOrInstrument';
import { evennessOf, strokeFlows } from '../strokes/flow';
import { THIRDS, type ThirdSummary } from '../strokes/stroke';
import { gapEvenness } from '../strokes/strokeKinds';
import { type EventsInput, eventsOf, type TakeOptions } from '../take/analyse';

const round = (x: number, digits = 3) => Number(x.toFixed(digits));

/**
 * What happens in a take as JSON text, `gestometra-events/1`: strokes with their thirds, notes, crossings by their
 * three clocks, the level along the bow, two-string touches, stray strings, holds. Times in seconds from the first frame; unknown values are left out.
 */
export function eventsToText(take: EventsInput, options: TakeOptions = {}): string {
  const { strokes, frames } = take;
  const lines = stringLines(take.solution.model, take.family);
  const names = lines.map((l) => l.name);
  const levels = stringLevels(take.solution.model, take.family);
  const flows = strokeFlows(frames, strokes);
  const motions = strokeMotions(frames, strokes, { poses: take.tracked.map((f) => f.pose), side: sideSign(take.family) });
  const evenness = evennessOf(strokes);
  const { sound } = take;
  const { crossings, strays, notes, lag, levels: table, pairs, bows, tones } = eventsOf(take, options);
  const { shift } = options;
  const evenGaps = gapEvenness(bows);
  return `${JSON.stringify(
    {
      format: 'gestometra-events/1',
      strokes: strokes.map((s, i) => ({
        from: round(s.from),
        to: round(s.to),
        direction: s.direction,
        ...(s.string ? { string: s.string } : {}),
        from_position: round(s.fromPosition),
        to_position: round(s.toPosition),
        ...(s.skew_deg ? { skew_deg: round(s.skew_deg.value), skew_deg_u: round(s.skew_deg.u) } : {}),
        ...(s.contact_mm ? { contact_mm: round(s.contact_mm.value), contact_mm_u: round(s.contact_mm.u) } : {}),
        ...(s.contact_fraction ? { contact_fraction: round(s.contact_fraction.value) } : {}),
        ...(s.contactRange ? { contact_range: round(s.contactRange.value) } : {}),
        ...(s.arcIndex ? { arc_index: round(s.arcIndex.value), arc_index_u: round(s.arcIndex.u) } : {}),
        ...(s.levelHold ? { level_hold_deg: round(s.levelHold.value), level_hold_deg_u: round(s.levelHold.u) } : {}),
        ...(s.forearmShare ? { forearm_share: round(s.forearmShare.value), forearm_share_u: round(s.forearmShare.u) } : {}),
        mean_speed_mm_s: round(s.meanSpeed, 1),
        peak_speed_mm_s: round(s.peakSpeed, 1),
        share: round(Math.abs(s.toPosition - s.fromPosition)),
        thirds: Object.fromEntries(THIRDS.filter((third) => s.thirds[third].seconds > 0).map((third) => [third, thirdOut(s.thirds[third])])),
        ...(motions[i]!.swing !== undefined ? { instrument_swing_deg: round(motions[i]!.swing!) } : {}),
        ...(motions[i]!.split ? { skew_change_by_bow_deg: round(motions[i]!.split!.bow), skew_change_by_instrument_deg: round(motions[i]!.split!.instrument) } : {}),
        ...(flows[i]!.recovery !== undefined ? { recovery_s: round(flows[i]!.recovery!) } : {}),
        ...(flows[i]!.stops.length ? { stops: flows[i]!.stops.map((p) => ({ from: round(p.from), to: round(p.to), bow_position: round(p.position) })) } : {}),
      })),
      ...(take.holds ? { holds: take.holds.map(({ kind, from, to }) => ({ kind, from: round(from), to: round(to) })) } : {}),
      ...(evenness ? { evenness: { shares: round(evenness.shares), durations: round(evenness.durations) } } : {}),
      crossing_pairs: pairs.map((p) => ({
        from_string: p.leaves,
        to_string: p.reaches,
        count: p.count,
        ...(p.seconds === undefined ? {} : { seconds: round(p.seconds) }),
        ...(p.overshoot === undefined ? {} : { overshoot_deg: round(p.overshoot) }),
        ...(p.noteLag === undefined ? {} : { note_lag_ms: round(1000 * p.noteLag, 0) }),
        ...(p.noteSpread === undefined ? {} : { note_lag_spread_ms: round(1000 * p.noteSpread, 0) }),
        ...(p.who ? { who: p.who } : {}),
      })),
      ...(evenGaps === undefined ? {} : { gap_evenness: round(evenGaps) }),
      bows: bows.map((b) => ({
        stroke: b.stroke,
        kind: b.kind,
        ...(b.shares.length > 0 ? { shares: b.shares.map((x) => round(x)) } : {}),
        ...(b.gap === undefined ? {} : { gap_s: round(b.gap) }),
      })),
      notes: notes.map((n, i) => ({
        from: round(n.from),
        to: round(n.to),
        string: names[n.string],
        hz: round(n.hz, 2),
        confidence: round(n.confidence),
        new_bow_on_the_same_pitch: n.again,
        brightness: round(n.tone.brightness),
        noise: round(n.tone.noise),
        ...(n.tone.unsteadiness === undefined ? {} : { unsteadiness_cents: round(n.tone.unsteadiness, 1) }),
        ...(tones[i] ? { tone: tones[i].hint, tone_confidence: round(tones[i].confidence) } : {}),
      })),
      crossings: crossings.map((c) => ({
        from_string: c.leaves,
        to_string: c.reaches,
        t_bow: round(c.tBow),
        ...(c.tNote === undefined ? {} : { t_note: round(c.tNote), note_lag_ms: round(1000 * (c.tNote - c.tBow), 0) }),
        ...(c.tElbow ? { t_elbow: round(c.tElbow.value), t_elbow_u: round(c.tElbow.u), elbow_lag_ms: round(1000 * (c.tElbow.value - c.tBow), 0) } : {}),
      })),
      levels: levelCourses(frames, names, levels).map((c) => ({
        string: c.string,
        closest_position: round(c.closest.position),
        along_the_bow: c.parts.map((p) => ({
          bow_position: round(p.position),
          departure_deg: round(p.departure.value),
          departure_deg_u: round(p.departure.u),
          margin_deg: round(p.margin),
        })),
      })),
      ...(table.doubled.length > 0 ? { doubled_levels: table.doubled } : {}),
      string_levels: table.levels.map((l) => ({
        string: l.string,
        strokes: l.strokes,
        inclination_deg: round(l.bow.value),
        inclination_deg_u: round(l.bow.u),
        ...(l.bowSpread === undefined ? {} : { inclination_spread_deg: round(l.bowSpread) }),
        ...(l.arm ? { upper_arm_elevation_deg: round(l.arm.value), upper_arm_elevation_deg_u: round(l.arm.u) } : {}),
        ...(l.armSpread === undefined ? {} : { upper_arm_spread_deg: round(l.armSpread) }),
      })),
      level_steps: table.steps.map((x) => ({
        lower: x.lower,
        higher: x.higher,
        bow_share: round(x.bowShare),
        ...(x.armStep ? { upper_arm_step_deg: round(x.armStep.value), upper_arm_step_deg_u: round(x.armStep.u) } : {}),
        ...(x.distinctness === undefined ? {} : { distinctness: round(x.distinctness) }),
      })),
      two_string_touches: twoStringTouches(frames, names, levels).map((w) => ({
        from: round(w.from),
        to: round(w.to),
        strings: w.strings,
        ...(w.position !== undefined ? { bow_position: round(w.position) } : {}),
        inclination_deg_u: round(w.u),
        in_crossing: w.inChange,
      })),
      strays: strays.map((x) => ({
        from: round(x.from),
        to: round(x.to),
        string: x.string,
        ...(x.position === undefined ? {} : { bow_position: round(x.position) }),
        in_crossing: x.inCrossing,
        why: x.why,
        confidence: round(x.confidence),
      })),
      ...(lag ? { elbow_lag_ms: round(1000 * lag.value, 0), elbow_lag_ms_u: round(1000 * lag.u, 0) } : {}),
      ...(sound ? { tuning_cents: round(sound.heard.cents, 1), tuning_cents_u: round(sound.heard.cents_u, 1) } : {}),
      ...(shift !== undefined
        ? { audio_offset_ms: round(1000 * shift, 0) }
        : sound?.late
          ? { audio_offset_ms: round(1000 * sound.late.value, 0), audio_offset_ms_u: round(1000 * sound.late.u, 0) }
          : {}),
    },
    null,
    1,
  )}\n`;
}

const thirdOut = (third: ThirdSummary) => ({
  seconds: round(third.seconds),
  ...(third.skew_deg ? { skew_deg: round(third.skew_deg.value), skew_deg_u: round(third.skew_deg.u) } : {}),
  ...(third.contact_mm ? { contact_mm: round(third.contact_mm.value), contact_mm_u: round(third.contact_mm.u) } : {}),
  ...(third.inclination_deg ? { inclination_deg: round(third.inclination_deg.value), inclination_deg_u: round(third.inclination_deg.u) } : {}),
});
