/** Wait until what has just been answered stands on the page, so that the next step starts from it. */
export const afterPaint = (): Promise<void> =>
  new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));
