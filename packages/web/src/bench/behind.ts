/** What is drawn beside the picture follows a setting after so many ms, so that the picture goes first, and while it is dragged as often as that. */
export const BEHIND = { after: 60, every: 80 } as const
