/** Where metres stand in a picture from the side: x away from the bag's axis, y up from the floor; a metre in px. */
export type Scale = { metre: number; x: (m: number) => number; y: (m: number) => number }
