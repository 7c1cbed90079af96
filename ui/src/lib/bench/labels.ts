/** A box on the picture, px from its upper left corner; weight is how much it costs to write over it, 1 where nothing is said. */
export type Box = { x: number; y: number; w: number; h: number; weight?: number }
/** What is to be written: how large it is, and where its box may lie, the best place first. */
export type Wanted = { w: number; h: number; spots: { x: number; y: number }[] }

const perPlace = 6 // px² of overlap that a place further down the list is worth
const outside = 20 // times as bad as lying over something

function shared(a: Box, b: Box) {
  const w = Math.min(a.x + a.w, b.x + b.w) - Math.max(a.x, b.x)
  const h = Math.min(a.y + a.h, b.y + b.h) - Math.max(a.y, b.y)
  return w > 0 && h > 0 ? w * h : 0
}

/** Finds a place for each label in turn: that which lies over least of what is there already, other labels too, and within the picture. */
export function placed(wanted: Wanted[], taken: Box[], picture: Box): Box[] {
  const all = [...taken]
  return wanted.map(({ w, h, spots }) => {
    let best: Box = { ...spots[0]!, w, h }
    let least = Infinity
    spots.forEach((spot, i) => {
      const box = { ...spot, w, h }
      const over = all.reduce((sum, b) => sum + shared(box, b) * (b.weight ?? 1), 0)
      const cost = over + i * perPlace + outside * (w * h - shared(box, picture))
      if (cost < least) [best, least] = [box, cost]
    })
    all.push({ ...best, weight: 4 })
    return best
  })
}
