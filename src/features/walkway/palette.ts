import { Color } from 'three';
import { FOOT_COLORS } from '../theme/theme';

/** Colours of the scene for a scheme. */
export interface ScenePalette {
  readonly paper: Color;
  readonly rule: Color;
  readonly ink: Color;
  readonly sea: Color;
  readonly left: Color;
  readonly right: Color;
}

export function scenePalette(scheme: 'light' | 'dark'): ScenePalette {
  const feet = FOOT_COLORS[scheme];
  return scheme === 'light'
    ? {
        paper: new Color('#EFEADF'),
        rule: new Color('#9A927F'),
        ink: new Color('#1F2933'),
        sea: new Color('#1B6B73'),
        left: new Color(feet.left),
        right: new Color(feet.right),
      }
    : {
        paper: new Color('#1A2228'),
        rule: new Color('#5B6A74'),
        ink: new Color('#ECE6D8'),
        sea: new Color('#6FC3CA'),
        left: new Color(feet.left),
        right: new Color(feet.right),
      };
}
