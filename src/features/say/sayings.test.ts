import { expect, test } from 'vitest';
import { answersTo, type Saying } from './sayings';

const say = (words: string, more: Partial<Saying> = {}): Saying => ({ words, about: '', run: () => undefined, ...more });
const SAYINGS = [
  say('Stride length', { wants: 'm' }),
  say('Stride time', { wants: 's' }),
  say('Run', { also: 'gait use' }),
  say('Run to the tide', { also: 'gait use' }),
  say('Over into Run', { also: 'walk change' }),
  say('Save as', { wants: 'a name' }),
  say('Put down stairs', { also: 'ground' }),
  say('Lock the feet'),
];
const first = (text: string) => {
  const [answer] = answersTo(text, SAYINGS);
  return answer && [answer.saying.words, answer.rest];
};

test('beginnings of words find a saying; of several that answer alike the one listed first is the likeliest', () => {
  expect(first('stri 1.4 m')).toEqual(['Stride length', '1.4 m']);
  expect(first('stride t 1,1')).toEqual(['Stride time', '1,1']);
  expect(first('lock feet')).toEqual(['Lock the feet', '']);
  expect(first('STAIRS')).toEqual(['Put down stairs', '']);
});

test('what is told whole comes before what goes on, and words beside it find it too', () => {
  expect(first('run')).toEqual(['Run', '']);
  expect(first('run tide')).toEqual(['Run to the tide', '']);
  expect(first('into run')).toEqual(['Over into Run', '']);
  expect(first('ground st')).toEqual(['Put down stairs', '']);
});

test('only what wants something keeps words behind its own, as they were typed', () => {
  expect(first('save as Sore Knee 2')).toEqual(['Save as', 'Sore Knee 2']);
  expect(first('lock the doors')).toBeUndefined();
  expect(answersTo('   ', SAYINGS)).toEqual([]);
});
