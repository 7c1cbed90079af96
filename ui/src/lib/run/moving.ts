import { calm } from '../ui/calm'

/** Draws something at each frame as it is by a clock, until what is given back is called; once and as it is struck, where whoever looks has
 * asked for little motion. */
export function moving(clock: () => number, struck: number, draw: (now: number) => void): () => void {
  let frame = 0
  const step = () => {
    draw(clock())
    frame = requestAnimationFrame(step)
  }
  if (calm()) draw(struck)
  else frame = requestAnimationFrame(step)
  return () => cancelAnimationFrame(frame)
}
