/** Words on one line: where their middle is and how much room they take, px. */
export interface LaneWord {
  readonly at: number;
  readonly width: number;
}

/** Lanes, from 0 on, on which words lie so that none is written over another; a word takes the lowest that is free. */
export function lanesOf(words: readonly LaneWord[]): number[] {
  const lanes: [from: number, to: number][][] = [];
  return words.map(({ at, width }) => {
    const [from, to] = [at - width / 2, at + width / 2];
    let lane = lanes.findIndex((taken) => taken.every(([a, b]) => to <= a || from >= b));
    if (lane < 0) lane = lanes.push([]) - 1;
    lanes[lane]!.push([from, to]);
    return lane;
  });
}
