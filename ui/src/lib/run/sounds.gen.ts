// Made of format/sound by its test. Do not change it here.
export const sounds = {
  "begins": {
    "channel": "bell",
    "parts": [
      {
        "shape": "sine",
        "after": 0,
        "from": 930,
        "to": 925,
        "length": 0.4,
        "loud": 0.3
      },
      {
        "shape": "sine",
        "after": 0.14,
        "from": 930,
        "to": 925,
        "length": 0.4,
        "loud": 0.3
      }
    ],
    "speaks": 0.35
  },
  "bell": {
    "channel": "bell",
    "parts": [
      {
        "shape": "sine",
        "after": 0,
        "from": 620,
        "to": 618,
        "length": 1.1,
        "loud": 0.4
      },
      {
        "shape": "sine",
        "after": 0,
        "from": 1494.2,
        "to": 1489.38,
        "length": 0.45643153526970953,
        "loud": 0.22
      },
      {
        "shape": "sine",
        "after": 0,
        "from": 2418,
        "to": 2410.2,
        "length": 0.2820512820512821,
        "loud": 0.12
      }
    ],
    "speaks": null
  },
  "bell.end": {
    "channel": "bell",
    "parts": [
      {
        "shape": "sine",
        "after": 0,
        "from": 620,
        "to": 618,
        "length": 1.1,
        "loud": 0.4
      },
      {
        "shape": "sine",
        "after": 0,
        "from": 1494.2,
        "to": 1489.38,
        "length": 0.45643153526970953,
        "loud": 0.22
      },
      {
        "shape": "sine",
        "after": 0,
        "from": 2418,
        "to": 2410.2,
        "length": 0.2820512820512821,
        "loud": 0.12
      },
      {
        "shape": "sine",
        "after": 0.32,
        "from": 620,
        "to": 618,
        "length": 1.1,
        "loud": 0.4
      },
      {
        "shape": "sine",
        "after": 0.32,
        "from": 1494.2,
        "to": 1489.38,
        "length": 0.45643153526970953,
        "loud": 0.22
      },
      {
        "shape": "sine",
        "after": 0.32,
        "from": 2418,
        "to": 2410.2,
        "length": 0.2820512820512821,
        "loud": 0.12
      },
      {
        "shape": "sine",
        "after": 0.64,
        "from": 620,
        "to": 618,
        "length": 1.1,
        "loud": 0.4
      },
      {
        "shape": "sine",
        "after": 0.64,
        "from": 1494.2,
        "to": 1489.38,
        "length": 0.45643153526970953,
        "loud": 0.22
      },
      {
        "shape": "sine",
        "after": 0.64,
        "from": 2418,
        "to": 2410.2,
        "length": 0.2820512820512821,
        "loud": 0.12
      }
    ],
    "speaks": null
  },
  "call": {
    "channel": "voice",
    "parts": [],
    "speaks": 0
  },
  "count": {
    "channel": "warning",
    "parts": [
      {
        "shape": "triangle",
        "after": 0,
        "from": 880,
        "to": 860,
        "length": 0.07,
        "loud": 0.5
      }
    ],
    "speaks": null
  },
  "cue": {
    "channel": "voice",
    "parts": [
      {
        "shape": "triangle",
        "after": -0.02,
        "from": 1400,
        "to": 1400,
        "length": 0.05,
        "loud": 0.35
      }
    ],
    "speaks": 0
  },
  "loose": {
    "channel": "voice",
    "parts": [],
    "speaks": 0
  },
  "next": {
    "channel": "voice",
    "parts": [],
    "speaks": 0
  },
  "pass": {
    "channel": "strike",
    "parts": [
      {
        "shape": "noise",
        "after": -0.04,
        "from": 420,
        "to": 420,
        "length": 0.12,
        "loud": 0.3
      }
    ],
    "speaks": null
  },
  "rebound": {
    "channel": "board",
    "parts": [
      {
        "shape": "noise",
        "after": 0,
        "from": 2100,
        "to": 2100,
        "length": 0.022,
        "loud": 0.55
      },
      {
        "shape": "triangle",
        "after": 0,
        "from": 470,
        "to": 420,
        "length": 0.03,
        "loud": 0.22
      }
    ],
    "speaks": null
  },
  "rebound.even": {
    "channel": "board",
    "parts": [
      {
        "shape": "noise",
        "after": 0,
        "from": 2600,
        "to": 2600,
        "length": 0.022,
        "loud": 0.55
      },
      {
        "shape": "triangle",
        "after": 0,
        "from": 560,
        "to": 420,
        "length": 0.03,
        "loud": 0.22
      }
    ],
    "speaks": null
  },
  "strike": {
    "channel": "strike",
    "parts": [
      {
        "shape": "sine",
        "after": 0,
        "from": 150,
        "to": 55,
        "length": 0.12,
        "loud": 0.9
      },
      {
        "shape": "noise",
        "after": 0,
        "from": 1400,
        "to": 1400,
        "length": 0.045,
        "loud": 0.5
      }
    ],
    "speaks": null
  },
  "warning": {
    "channel": "warning",
    "parts": [
      {
        "shape": "triangle",
        "after": 0,
        "from": 1180,
        "to": 1150,
        "length": 0.09,
        "loud": 0.4
      }
    ],
    "speaks": null
  }
} as const
export const sounding = {"attack":0.003,"betweenWords":0.03,"narrow":1.4,"silence":0.0001} as const
