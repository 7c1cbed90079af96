import type { Units } from '../format'
import type { Doc, Place } from './fields'

/** What is measured of each kind of rig: labels, comfortable ranges of the sliders (SI), and units. The limits proper are
 * the server's. */
export type Quantity = 'length' | 'height' | 'light' | 'heavy' | 'share' | 'stiffness' | 'spring' | 'ratio' | 'load' | 'speed'
export type Measure = { field: string; label: string; min: number; max: number; step: number; of: Quantity; note?: string; open?: boolean }

const m = (field: string, label: string, of: Quantity, min: number, max: number, step: number, note?: string): Measure => ({ field, label, of, min, max, step, ...(note ? { note } : {}) })

export const kindNames: Record<Doc['kind'], string> = { speed: 'Speed bag', doubleEnd: 'Double-end bag', reflex: 'Reflex bag', slip: 'Slip bag', hanging: 'Hanging bag' }
export const kindWords: Record<Doc['kind'], string> = {
  speed: 'under a board', doubleEnd: 'between two cords', reflex: 'on a sprung pole', slip: 'a light pendulum', hanging: 'a heavy one on a chain',
}

const measures: Record<Doc['kind'], Measure[]> = {
  speed: [
    m('bagLength', 'Length, swivel to bottom', 'length', 0.12, 0.45, 0.005),
    m('bagDiameter', 'Widest diameter', 'length', 0.08, 0.35, 0.005),
    m('swivelDrop', 'Swivel below the board', 'length', 0, 0.08, 0.0025),
    m('bagMass', 'Weight', 'light', 0.08, 1.2, 0.01),
    m('boardHeight', 'Board above the floor', 'height', 1, 2.8, 0.01),
    m('restitution', 'Speed kept at the board', 'share', 0.4, 0.95, 0.01, '80 % is assumed until calibrated; a soft or badly pumped bag keeps less.'),
  ],
  doubleEnd: [
    m('ballDiameter', 'Ball', 'length', 0.06, 0.4, 0.005),
    m('ballMass', 'Weight of the ball', 'light', 0.05, 1.5, 0.01),
    m('upper.span', 'Upper cord, anchor to the ball’s middle', 'height', 0.3, 2, 0.01),
    m('upper.relaxed', 'Upper cord, relaxed', 'height', 0.1, 2, 0.005),
    m('lower.span', 'Lower cord, anchor to the ball’s middle', 'height', 0.3, 2, 0.01),
    m('lower.relaxed', 'Lower cord, relaxed', 'height', 0.1, 2, 0.005),
    m('place.lowerAnchor', 'Lower anchor above the floor', 'height', 0, 1.2, 0.01),
    m('upper.stiffness', 'Stiffness of the upper cord', 'stiffness', 10, 600, 1, 'Hardly anybody knows it: calibrate.'),
    m('lower.stiffness', 'Stiffness of the lower cord', 'stiffness', 10, 600, 1),
    m('damping', 'Damping', 'ratio', 0, 0.3, 0.005, '0.04 is assumed.'),
  ],
  reflex: [
    m('ballDiameter', 'Ball', 'length', 0.06, 0.4, 0.005),
    m('ballMass', 'Weight of the ball', 'light', 0.1, 3, 0.01),
    m('poleLength', 'Pole, spring to the ball’s middle', 'height', 0.4, 1.8, 0.01),
    m('poleMass', 'Weight of the pole', 'light', 0, 3, 0.01),
    m('place.springHeight', 'Spring above the floor', 'height', 0.05, 1.2, 0.01, '35 cm are assumed where it is not measured.'),
    m('spring', 'Spring', 'spring', 5, 200, 0.5, 'Hardly anybody knows it: calibrate.'),
    m('damping', 'Damping', 'ratio', 0, 0.4, 0.005, '0.06 is assumed.'),
    m('place.baseMass', 'Weight of the filled base', 'heavy', 0, 200, 1),
    m('place.baseWidth', 'Width of the base', 'height', 0, 1.2, 0.01),
  ],
  slip: [
    m('anchorHeight', 'Anchor above the floor', 'height', 1.5, 5, 0.01),
    m('centreHeight', 'Middle of the bag above the floor', 'height', 0.6, 2.2, 0.01),
    m('bagDiameter', 'Diameter', 'length', 0.05, 0.4, 0.005),
    m('bagMass', 'Weight', 'light', 0.05, 4, 0.01),
  ],
  hanging: [
    m('mass', 'Weight', 'heavy', 5, 100, 0.5),
    m('length', 'Length of the bag', 'height', 0.5, 2, 0.01),
    m('diameter', 'Diameter', 'length', 0.2, 0.7, 0.005),
    m('chain', 'Chain, anchor to the top of the bag', 'height', 0, 2.5, 0.01),
    m('anchorHeight', 'Anchor above the floor', 'height', 1.5, 5, 0.01),
  ],
}

const room = [
  m('place.ratedLoad', 'Rated load of the weakest part', 'heavy', 0, 500, 1, 'Hook, shackle or swivel: what is stamped on it. 0 is not known.'),
  m('place.beyond', 'To the wall behind the bag', 'height', 0, 5, 0.05, 'From the bag’s middle; 0 is not measured.'),
  m('place.beside', 'To the nearer wall at its side', 'height', 0, 5, 0.05),
  m('place.behind', 'To the wall behind the trainee', 'height', 0, 5, 0.05),
  m('place.powerCap', 'Greatest fist speed the maker allows', 'speed', 0, 15, 0.5, '0 is no cap.'),
]

export const measuresOf = (doc: Doc) => measures[doc.kind].filter((f) => f.field !== 'length' || (doc.kind === 'hanging' && doc.shape === 'cylinder'))
export const placeOf = (doc: Doc) => room.filter((f) => (f.field !== 'place.powerCap' || doc.kind !== 'slip') && (f.field !== 'place.ratedLoad' || doc.kind !== 'reflex'))

/** A new rig begins with everyday measures; they are assumed until somebody measures. */
export const everyday: Record<Doc['kind'], { doc: Doc; place: Place }> = {
  speed: { doc: { kind: 'speed', bagLength: 0.23, bagDiameter: 0.15, bagMass: 0.25, swivelDrop: 0.02, restitution: 0.8, boardHeight: 1.95 }, place: {} },
  doubleEnd: { doc: { kind: 'doubleEnd', ballDiameter: 0.18, ballMass: 0.45, upper: { span: 1, relaxed: 0.8, stiffness: 110 }, lower: { span: 1.05, relaxed: 0.84, stiffness: 105 }, damping: 0.04 }, place: { lowerAnchor: 0.55 } },
  reflex: { doc: { kind: 'reflex', ballDiameter: 0.22, ballMass: 0.9, poleLength: 1.15, poleMass: 0.8, spring: 50, damping: 0.06 }, place: {} },
  slip: { doc: { kind: 'slip', anchorHeight: 2.6, centreHeight: 1.45, bagDiameter: 0.2, bagMass: 0.5 }, place: {} },
  hanging: { doc: { kind: 'hanging', shape: 'cylinder', mass: 40, length: 1.2, diameter: 0.35, chain: 0.8, anchorHeight: 2.7 }, place: {} },
}

/** How a quantity is shown in a gym's units: shown = SI × factor. */
export function shownAs(of: Quantity, units: Units): { unit: string; factor: number; digits: number } {
  const imperial = units === 'imperial'
  switch (of) {
    case 'length': return imperial ? { unit: 'in', factor: 1 / 0.0254, digits: 2 } : { unit: 'cm', factor: 100, digits: 1 }
    case 'height': return imperial ? { unit: 'in', factor: 1 / 0.0254, digits: 1 } : { unit: 'cm', factor: 100, digits: 1 }
    case 'light': return imperial ? { unit: 'oz', factor: 35.27396, digits: 1 } : { unit: 'g', factor: 1000, digits: 0 }
    case 'heavy': return imperial ? { unit: 'lb', factor: 2.204623, digits: 0 } : { unit: 'kg', factor: 1, digits: 1 }
    case 'speed': return imperial ? { unit: 'ft/s', factor: 3.28084, digits: 1 } : { unit: 'm/s', factor: 1, digits: 1 }
    case 'stiffness': return imperial ? { unit: 'lb/in', factor: 0.00571015, digits: 2 } : { unit: 'N/m', factor: 1, digits: 0 }
    case 'spring': return { unit: 'Nm/rad', factor: 1, digits: 1 }
    case 'share': return { unit: '%', factor: 100, digits: 0 }
    default: return { unit: '', factor: 1, digits: 3 }
  }
}

/** A value of a field in words, for lists of settings. */
export function valueOf(field: string, v: number, units: Units): string {
  const known = [...Object.values(measures).flat(), ...room].find((f) => f.field === field)
  const s = shownAs(known?.of ?? 'ratio', units)
  return `${(v * s.factor).toFixed(s.digits).replace(/\.0+$/, '')}${s.unit ? ' ' + s.unit : ''}`
}

export const labelOf = (field: string) => [...Object.values(measures).flat(), ...room].find((f) => f.field === field)?.label ?? field

/** Whether somebody can set a measure with a tape; stiffness comes along with the length of a cord. */
export const isSet = (field: string) => !field.endsWith('stiffness')

export const parts: Record<string, string> = { anchor: 'Anchor', upper: 'Upper anchor', lower: 'Lower anchor', swivel: 'Swivel', base: 'Push on the base' }

type Option = { value: string; text: string }
export type Choosable = { field: keyof Place; label: string; options: Option[]; note?: string }
const o = (value: string, text: string): Option => ({ value, text })
const anchors: Choosable = {
  field: 'anchor', label: 'Anchored', options: [o('structure', 'In structure'), o('frame', 'On a frame'), o('stickOn', 'Stick-on hook'), o('lightFitting', 'Light fitting'), o('pipe', 'Pipe'), o('door', 'Door')],
}

/** What may be chosen of a rig's place and use. Where coaches disagree the default stands first. */
export const choices: Record<Doc['kind'], Choosable[]> = {
  speed: [{ field: 'school', label: 'Height', options: [o('usual', 'Chin to mouth'), o('shoulders', 'Higher, for the shoulders')] }, anchors],
  doubleEnd: [{ field: 'purpose', label: 'Used for', options: [o('combinations', 'Combinations'), o('headMovement', 'Head movement')] }, { field: 'made', label: 'The ball', options: [o('bag', 'Round'), o('twoLobed', 'Two-lobed')], note: 'A two-lobed one takes uppercuts and hooks to the body.' }, anchors],
  reflex: [],
  slip: [
    { field: 'school', label: 'Height', options: [o('usual', 'Chin'), o('head', 'Head')] },
    { field: 'purpose', label: 'Used as', options: [o('lightHits', 'Dodge and light hits'), o('obstacle', 'Obstacle, no touch')] },
    { field: 'stand', label: 'The trainee stands', options: [o('lowPoint', 'Under the low point'), o('turn', 'At the near turn')] },
    { field: 'plane', label: 'It swings', options: [o('toward', 'Toward you, to slip'), o('across', 'Across you, to roll under')] },
    { field: 'made', label: 'What hangs there', options: [o('bag', 'A bag'), o('softBall', 'A soft ball'), o('bottle', 'A bottle')] },
    anchors,
  ],
  hanging: [anchors],
}

/** What to tap along with when a rig is calibrated, and what is counted. */
export const tapping: Record<Doc['kind'], { how: string; first: string; counted: string; twice: string; parameter: string }> = {
  speed: { how: 'Strike it once and tap with the strike, then tap every board sound.', first: 'strike', counted: 'board sounds', twice: 'Was that more than the board sounds?', parameter: 'Speed kept at the board' },
  doubleEnd: { how: 'Strike it once and tap with the strike, then tap each time the ball comes back to you through the middle, not as it goes out.', first: 'strike', counted: 'returns', twice: 'Was that each time it went through the middle, on its way out as well?', parameter: 'Stiffness of the cords' },
  reflex: { how: 'Strike it once and tap with the strike, then tap each time the ball comes back to you through the upright, not as it goes out.', first: 'strike', counted: 'returns', twice: 'Was that each time it stood upright, on its way out as well?', parameter: 'Spring' },
  slip: { how: 'Draw it back a little, about a third of its rope. Tap as you let go, then at every pass through the low point, from both sides.', first: 'let go', counted: 'passes', twice: 'Was that where it turned as well as where it passed?', parameter: 'Effective length, as height of the anchor' },
  hanging: { how: 'Push it gently. Tap with the push, then each time it comes back to you through the low point, not as it goes out.', first: 'push', counted: 'returns', twice: 'Was that each time it went through the low point, on its way out as well?', parameter: 'Effective length, as chain' },
}
