/** The pointer's gesture, from its going down to its coming up; 0 while none is down. */
let held = 0
let begun = 0
// Before anything on the page hears of it, and whatever becomes of it there.
addEventListener('pointerdown', () => void (held = ++begun), { capture: true })
for (const end of ['pointerup', 'pointercancel', 'blur'])
  addEventListener(
    end,
    () => {
      const ended = held
      // What is changed at its coming up belongs to it.
      setTimeout(() => held === ended && (held = 0))
    },
    { capture: true },
  )

/** @returns a number of its own for each gesture of the pointer that goes on; 0 when there is none */
export const gesture = (): number => held
