import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAULTS } from '../findings/faults';
import { FAMILIES } from '../instrument/family';
import { exerciseSchema } from './exercise';
import { EXERCISES, exerciseByName } from './exercises';
import { familyWords } from './familyWords';
import { DAYS, MINUTES_A_DAY, weekPlan } from './weekPlan';

describe('the exercise library', () => {
  it('holds every exercise once, with all it must carry', () => {
    expect(new Set(EXERCISES.map((e) => e.name)).size).toBe(EXERCISES.length);
    expect(EXERCISES.length).toBeGreaterThanOrEqual(36);
    for (const e of EXERCISES) for (const before of e.after) expect(exerciseByName(before), `${e.name} after ${before}`).toBeDefined();
  });
  it('refuses an entry that lacks its caution', () => {
    const { cautions: _, ...rest } = EXERCISES[0]!;
    expect(exerciseSchema.safeParse(rest).success).toBe(false);
    expect(exerciseSchema.safeParse({ ...EXERCISES[0], strength: 3 }).success).toBe(false);
  });
  it('knows every exercise that a fault asks for, for every family the fault is judged in', () => {
    for (const fault of FAULTS) {
      const known = fault.exercises.map((name) => exerciseByName(name));
      expect(known.every(Boolean), `${fault.id}: ${fault.exercises}`).toBe(true);
      for (const family of fault.families ?? FAMILIES)
        expect(
          known.some((e) => e!.families.includes(family)),
          `${fault.id} on the ${family}`,
        ).toBe(true);
    }
  });
  it('has words for the family for every fault', () => {
    for (const fault of FAULTS) expect(familyWords(fault.id), fault.id).toBeDefined();
  });
  it('goes round in no circle of what comes before what', () => {
    const depth = (name: string, seen: readonly string[] = []): number => {
      expect(seen).not.toContain(name);
      return 1 + Math.max(0, ...exerciseByName(name)!.after.map((before) => depth(before, [...seen, name])));
    };
    for (const e of EXERCISES) expect(depth(e.name)).toBeLessThan(8);
  });
});

describe("a week's plan", () => {
  const focusOf = (id: string) => ({ fault: id, exercises: FAULTS.find((f) => f.id === id)!.exercises });
  it('keeps within the minutes of a day, whatever the foci', () => {
    fc.assert(
      fc.property(fc.subarray([...FAULTS], { maxLength: 2 }), fc.constantFrom(...MINUTES_A_DAY), fc.constantFrom(...FAMILIES), (faults, minutesADay, family) => {
        const plan = weekPlan(
          faults.map((f) => ({ fault: f.id, exercises: f.exercises })),
          { family, minutesADay },
        );
        expect(plan.days).toHaveLength(DAYS);
        for (const day of plan.days) {
          expect(day.minutes).toBeLessThanOrEqual(minutesADay);
          expect(day.items.every((i) => i.minutes >= 1 && i.minutes <= i.exercise.dose.minutes && i.exercise.families.includes(family))).toBe(true);
          expect(new Set(day.items.map((i) => i.exercise.name)).size).toBe(day.items.length);
        }
        expect(plan.days.filter((d) => d.free)).toHaveLength(1);
        expect(plan.days.filter((d) => d.film).map((d) => d.day)).toEqual([6]);
      }),
    );
  });
  it('serves both foci on every day that is not free', () => {
    const plan = weekPlan([focusOf('tip-to-scroll'), focusOf('thumb-straight')], { family: 'violin', minutesADay: 10 });
    for (const day of plan.days.filter((d) => !d.free)) expect(new Set(day.items.map((i) => i.fault))).toEqual(new Set(['tip-to-scroll', 'thumb-straight']));
    expect(plan.days[0]!.items.map((i) => i.exercise.name)).not.toEqual(plan.days[1]!.items.map((i) => i.exercise.name));
  });
  it('leaves out what the teacher took out, and refuses a third focus', () => {
    const plan = weekPlan([focusOf('tip-to-scroll')], { family: 'violin', minutesADay: 10, without: ['Tube glide'] });
    expect(plan.exercises.map((e) => e.name)).not.toContain('Tube glide');
    expect(plan.exercises.length).toBeGreaterThan(0);
    expect(() => weekPlan([focusOf('tip-to-scroll'), focusOf('at-bridge'), focusOf('thumb-straight')], { family: 'violin', minutesADay: 10 })).toThrow(/at most 2/);
    expect(() => weekPlan([], { family: 'violin', minutesADay: 0 })).toThrow(/minutes/);
  });
});
