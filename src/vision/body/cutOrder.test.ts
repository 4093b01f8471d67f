import { describe, expect, it } from 'vitest';
import { type Cut, CutOrder, PLAIN } from './cutOrder';

const cuts: Cut[] = [PLAIN, { ...PLAIN, share: 0.7 }, { ...PLAIN, mirror: true }, { ...PLAIN, turn: 0.6 }, { ...PLAIN, turn: -0.6 }];

describe('the order of cuts', () => {
  it('begins with the one that showed the part last', () => {
    const order = new CutOrder(cuts, 4);
    expect(order.next()).toEqual(cuts.slice(0, 4));
    order.found(cuts[2]!);
    expect(order.next()).toEqual([cuts[2], cuts[0], cuts[1], cuts[3]]);
  });

  it('tries few cuts once the part has not shown in two pictures running, each in its turn, and many again once it shows', () => {
    const order = new CutOrder(cuts, 5, 2);
    order.none();
    expect(order.next()).toHaveLength(5);
    order.none();
    const tried = [1, 2, 3, 4, 5].flatMap(() => {
      const next = order.next();
      order.none();
      return next;
    });
    expect(tried).toEqual([...cuts, ...cuts]);
    order.found(cuts[3]!);
    expect(order.next()).toHaveLength(5);
  });

  it('goes on with the rest where not all are tried in one picture', () => {
    const order = new CutOrder(cuts, 3);
    order.none();
    expect(order.next()).toEqual([cuts[3], cuts[4], cuts[0]]);
  });
});
