let pressed = false;

/** Whether a pointer is held down anywhere on the page: what is shown will move again. */
export const isPressed = (): boolean => pressed;

if (typeof window !== 'undefined') {
  const note = (now: boolean) => () => {
    pressed = now;
  };
  window.addEventListener('pointerdown', note(true), true);
  window.addEventListener('pointerup', note(false), true);
  window.addEventListener('pointercancel', note(false), true);
}
