// Made of ui/labels by its test. Do not change it here.
export const bands = {
  "first-timer": "First-timer",
  "beginner": "Beginner",
  "intermediate": "Intermediate",
  "advanced": "Advanced",
  "expert": "Expert",
} as const
export const figureNames: Record<string, string> = {
  "alternate": "Hand after hand",
  "bias": "Lateness",
  "fistSpeed": "Top fist speed",
  "force": "Force scatter",
  "miss": "Missed outright",
  "motor": "Hand scatter",
  "sameHand": "Same hand again",
  "sight": "Reaction to sight",
  "sound": "Reaction to sound",
  "timing": "Timing scatter",
}
export const paces = {
  "flow": "in flow",
  "combination": "to learn it",
  "power": "with power",
  "speed": "at speed",
  "free": "own rhythm",
} as const
export const guidances = {
  "called": "called",
  "partly": "partly called",
  "alone": "not called",
  "fading": "calls fade out",
} as const
export const playings = {
  "beat": "Play the beat",
  "follow": "Follow my hits",
  "startThenFollow": "Count me in, then follow me",
} as const
export const recorders = {
  "keys": "taps",
  "device": "the bag sensor",
  "standin": "demo hits",
  "file": "a table of times",
  "none": "nothing",
} as const
export const methods = {
  "taps": "tapped along",
  "count": "counted in a time",
  "period": "started and stopped",
  "rounds": "rounds that agree",
} as const
export const verdicts: Record<string, string> = {
  "clean": "clean",
  "early": "early",
  "late": "late",
  "wrongHand": "other hand",
  "missed": "missed",
  "harmless": "fists touched",
}
export const markNames: Record<string, string> = {
  "missed": "Missed",
  "offLine": "Off line",
  "wild": "Wild",
  "touched": "Touched",
  "found": "Found again",
}
export const ratings = {
  "held": "Held",
  "shaky": "Shaky",
  "notYet": "Not yet",
} as const
export const endings: Record<string, string> = {
  "stopped": "stopped early",
  "vanished": "screen lost",
}
export const states = {
  "ready": "planned",
  "running": "under way",
  "paused": "paused",
  "done": "done",
  "stopped": "ended early",
} as const
export const directions = {
  "start": "First touch",
  "next": "Next rung",
  "again": "Again",
  "softly": "Under control",
  "easier": "One thing easier",
  "aside": "For the weakest link",
  "back": "A rung down",
  "stay": "Held",
  "enough": "Enough for today",
  "top": "All rungs passed",
  "barred": "Held back",
  "given": "Given by the coach",
} as const
export const choices = {
  "accept": "Accepted",
  "change": "Accepted, with a change",
  "hold": "Held",
  "goOn": "Released",
  "skip": "Skipped",
} as const
export const roles = {
  "opener": "easy flow",
  "known": "known part",
  "new": "new",
  "whole": "full combination",
  "fast": "fast",
  "free": "free",
  "drill": "one drill",
  "own": "own drills",
  "counted": "counted",
  "off": "off the bag",
} as const
export const roundKinds = {
  "warmUp": "Warm-up",
  "change": "Gloves and water",
  "work": "Round",
  "finisher": "Finisher",
  "coolDown": "Cool-down",
} as const
export const channels = {
  "bell": "Bell",
  "warning": "Warnings and counts",
  "strike": "Strikes",
  "board": "Board sounds",
  "voice": "Voice",
} as const
