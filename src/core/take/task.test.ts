import { describe, expect, it } from 'vitest';
import { ROWS } from '../findings/faults';
import { TASK_FACTS, TASKS } from './task';

describe('tasks off the ordinary path', () => {
  const known = new Set(ROWS.map((f) => f.quantity as string));
  const judged = (task: (typeof TASKS)[number]) => ROWS.filter((f) => !TASK_FACTS[task].leavesOut.includes(f.quantity)).map((f) => f.id);
  it.each(TASKS)('%s leaves out only numbers that the catalogue judges', (task) => {
    expect(TASK_FACTS[task].leavesOut.filter((quantity) => !known.has(quantity))).toEqual([]);
  });
  it('judge no contact where it is off its place on purpose, nor what rests on it', () => {
    for (const task of ['behind-the-bridge', 'guide', 'silent', 'plucked'] as const)
      expect(judged(task).filter((id) => /contact|fingerboard|bridge|recovery/.test(id))).toEqual([]);
  });
  it('judge no stops that were asked for, and of a plucked take only player and instrument', () => {
    expect(judged('stops')).not.toContain('stops-between-strokes');
    expect(judged('stops')).toContain('level-lost');
    expect(
      judged('plucked').filter(
        (id) => !id.startsWith('left-') && /(bow|tip|frog|stroke|elbow-(too|behind|wrist)|thumb|little|finger|hand|wrist|cross|level|share|neighbour)/.test(id),
      ),
    ).toEqual([]);
  });
});
