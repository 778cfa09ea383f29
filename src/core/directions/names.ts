const WORDS = ['ahead', 'ahead left', 'left', 'back left', 'back', 'back right', 'right', 'ahead right'] as const;

/** What a direction is called (degrees, left of ahead counts up): the nearest of eight. */
export function directionWord(degrees: number): string {
  const turn = ((degrees % 360) + 360) % 360;
  return WORDS[Math.round(turn / 45) % 8]!;
}

/** A direction's name with its degrees behind, the same everywhere. */
export const directionName = (degrees: number, twin = false): string => `${directionWord(degrees)}, ${degrees}°${twin ? ', twin' : ''}`;
