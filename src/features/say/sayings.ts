/** Something that can be said: words that do it, once they are typed and taken. */
export interface Saying {
  readonly words: string;
  /** Further words by which it is found. */
  readonly also?: string;
  /** Where it belongs, as it stands beside the words. */
  readonly about: string;
  /** What is wanted behind the words, as it stands in the list: "metres", "a name". */
  readonly wants?: string;
  /** Does it with what was typed behind the words; says why not, where it cannot. */
  readonly run: (rest: string) => string | null | void;
}

/** A saying that answers what was typed, and what is left of that behind its words. */
export interface Answer {
  readonly saying: Saying;
  readonly rest: string;
}

/** Most answers that are listed. */
const MOST = 9;

const split = (text: string): string[] => text.trim().split(/\s+/).filter(Boolean);

/** How well words typed fit those of a saying: which of them were used up, and how much of the saying they told; null where none did. */
function fit({ words, also = '', wants }: Saying, typed: readonly string[]): { used: number; told: number } | null {
  const left = split(words.toLowerCase());
  const further = split(also.toLowerCase());
  let used = 0,
    told = 0;
  for (const word of typed) {
    const low = word.toLowerCase();
    const at = left.findIndex((w) => w.startsWith(low));
    const also_ = at < 0 ? further.findIndex((w) => w.startsWith(low)) : -1;
    if (at < 0 && also_ < 0) break;
    if (at >= 0) {
      // The first word counts most, and a whole word more than its beginning.
      told += low.length + (left[at] === low ? 2 : 0) + (at === 0 && used === 0 ? 3 : 0);
      left.splice(at, 1);
    } else {
      told += 1;
      further.splice(also_, 1);
    }
    used++;
  }
  if (used === 0 || (wants === undefined && used < typed.length)) return null;
  // Words told whole come before those that go on; of equals what is listed first.
  return { used, told: told + (left.length === 0 ? 3 : 0) };
}

/** Sayings that answer what was typed, the likeliest first: who uses up most of its words, then who is told most fully. */
export function answersTo(text: string, sayings: readonly Saying[]): Answer[] {
  const typed = split(text);
  if (typed.length === 0) return [];
  return sayings
    .flatMap((saying) => {
      const found = fit(saying, typed);
      return found ? [{ saying, rest: typed.slice(found.used).join(' '), ...found }] : [];
    })
    .sort((a, b) => b.used - a.used || b.told - a.told)
    .slice(0, MOST)
    .map(({ saying, rest }) => ({ saying, rest }));
}
