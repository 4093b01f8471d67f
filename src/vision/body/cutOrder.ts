/** A way to cut a part out: the square's share of the full one, its turn (radians), and whether it is mirrored. */
export interface Cut {
  readonly share: number;
  readonly turn: number;
  readonly mirror: boolean;
}

export const PLAIN: Cut = { share: 1, turn: 0, mirror: false };

/** Pictures in a row that showed the part in none of their cuts, after which fewer are tried: it mostly stays hidden for a while (ours). */
const HIDDEN = 2;

/** In which order the ways to cut a part out are tried: first the one that showed it last. */
export class CutOrder {
  private order: readonly Cut[];
  private inVain = 0;

  /** `most`: cuts tried in a picture before the part is given up there, a hand's costs as much as the whole body; `whileHidden`: and while it does not show. */
  constructor(
    cuts: readonly Cut[],
    private readonly most: number,
    private readonly whileHidden = most,
  ) {
    this.order = cuts;
  }

  /** The cuts to try in the next picture. */
  next(): readonly Cut[] {
    return this.order.slice(0, this.inVain < HIDDEN ? this.most : this.whileHidden);
  }

  found(cut: Cut): void {
    this.order = [cut, ...this.order.filter((c) => c !== cut)];
    this.inVain = 0;
  }

  /** None of the next showed it: they go to the end, and the picture after tries others. */
  none(): void {
    const { length } = this.next();
    this.order = [...this.order.slice(length), ...this.order.slice(0, length)];
    this.inVain++;
  }
}
