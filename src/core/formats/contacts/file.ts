import { strToU8 } from 'fflate';
import type { FootModel } from '../../body/foot-model';
import type { Clip } from '../../clip/clip';
import { onDeck } from '../../clip/deck';
import type { ClipFigure } from '../../clip/figure';
import { decodeContacts } from '../json/decode';
import { FormatFault } from '../limits';
import { heard, heardFloor, tell, tellFloor, type ContactsFile, type ToldContact } from './told';

/** The contacts file of a clip, with the soles of its feet where its own file does not show them. `told`: as another file tells them already. */
export function encodeContacts(clip: Clip, feet: readonly FootModel[] | null, told: readonly ToldContact[] | null = null): Uint8Array {
  const { name, rate, frames, contacts } = clip;
  const file: ContactsFile = {
    format: 'nimbret.contacts',
    version: 1,
    clip: name,
    rate,
    frames,
    contacts: [...(told ?? (contacts ?? []).map((c) => tell(c, rate)))],
    ...tellFloor(clip),
    ...(feet
      ? {
          soles: feet.map(({ name: foot, heel, ball, tip, up, toesUp }) => ({
            foot,
            heel: [...heel],
            ball: [...ball],
            tip: [...tip],
            up: [...up],
            toesUp: [...toesUp],
          })),
        }
      : {}),
  };
  return strToU8(`${JSON.stringify(file, null, 1)}\n`);
}

/** How far (part of it) a rate may be from the clip's: a BVH tells it by the time of a frame. */
const SAME_RATE = 1e-3;

/** A sole that is told lies no farther (m) from the one a skeleton has at rest. */
const FARTHEST_SOLE_M = 0.08;

/** A figure with the contacts of a contacts file, in frames, and with its soles. Throws FormatFault where they cannot be read or are another clip's. */
export function withContacts(text: string, file: string, figure: ClipFigure): ClipFigure {
  const { frames, rate } = figure.clip;
  const told = decodeContacts(text, file);
  if (told.frames !== frames || Math.abs(told.rate - rate) > SAME_RATE * rate)
    throw new FormatFault(`it tells of ${told.frames} frames at ${told.rate} a second; the motion has ${frames} at ${rate.toFixed(3)}`, file);
  const feet = figure.feet.map((foot) => {
    const sole = told.soles?.find((s) => s.foot === foot.name);
    const apart = (p: 'heel' | 'ball' | 'tip') => Math.hypot(...[0, 1, 2].map((k) => sole![p][k]! - foot[p][k]!));
    if (!sole) return foot;
    if (Math.max(apart('heel'), apart('ball'), apart('tip')) > FARTHEST_SOLE_M)
      throw new FormatFault(`the sole it tells of the ${foot.name} foot lies more than ${FARTHEST_SOLE_M * 1000} mm from the foot’s own`, file);
    const { heel, ball, tip, up, toesUp } = sole;
    return { ...foot, heel, ball, tip, up, toesUp };
  });
  const floor = heardFloor(told, frames, file);
  const clip = onDeck({ ...figure.clip, ...floor, contacts: heard(told.contacts, told.rate) });
  return { ...figure, ...floor, feet, ...(told.soles ? { soled: true } : {}), clip };
}

/** Name of the contacts file beside a motion file. */
export const contactsName = (path: string): string => path.replace(/\.[^.\\/]+$/, '') + '.contacts.json';
