import { driver, type DriveStep } from 'driver.js'
import 'driver.js/dist/driver.css'
import './tour.css'

const stop = (element: string, title: string, description: string): DriveStep => ({
  element,
  popover: { title, description },
})

/** Five stops along the way of the film. */
const STOPS: readonly DriveStep[] = [
  stop(
    '.line > .end:first-child',
    'Footage',
    'The picture comes in here, as the camera or the file gives it. Hold F to see it untreated at any time.',
  ),
  stop(
    '.line',
    'The line',
    'The film runs through one bath after another. Click a tray to see its settings at the right; drag it to another place.',
  ),
  stop(
    '.bath.chosen .strip',
    'The test strip',
    'Grey steps and colour patches as they leave each bath: here you see which bath tints the blacks or does nothing at all.',
  ),
  stop(
    '.line .add',
    'The board',
    'Every bath and every recipe as a live picture of this frame. Search by what it does: lift, sharpen, vintage. Key: A.',
  ),
  stop(
    '[data-tour=render]',
    'Render',
    'Clips and numbered pictures, or the look as a file for another program. Proofs keep a frame with its line.',
  ),
]

/** Walks through the bench; it can be left at any stop. */
export function startTour(): void {
  driver({
    steps: STOPS.filter(({ element }) => document.querySelector(element as string)),
    animate: !matchMedia('(prefers-reduced-motion: reduce)').matches,
    showProgress: true,
    progressText: '{{current}} of {{total}}',
    nextBtnText: 'next',
    prevBtnText: 'back',
    doneBtnText: 'done',
    popoverClass: 'tour',
  }).drive()
}
