package level

// OneThing is the one thing by which a drill differs from another: a code, which is stored and compared.
type OneThing string

// What makes a drill easier, and then what makes it harder.
const (
	Slower            OneThing = "slower"
	Softer            OneThing = "softer"
	PulledLess        OneThing = "pulledLess"
	PulledMore        OneThing = "pulledMore"
	MoreRebounds      OneThing = "moreRebounds"
	SecondReturns     OneThing = "secondReturns"
	FewerHandChanges  OneThing = "fewerHandChanges"
	PartOnly          OneThing = "partOnly"
	StraightsOnly     OneThing = "straightsOnly"
	Closer            OneThing = "closer" // close to the bag and softly: form may be let go
	NoCues            OneThing = "noCues"
	SeenToo           OneThing = "seenToo"
	Quicker           OneThing = "quicker"
	MoreForce         OneThing = "moreForce"
	FurtherOut        OneThing = "furtherOut"
	HookLast          OneThing = "hookLast"
	UppercutLast      OneThing = "uppercutLast"
	EveryReturn       OneThing = "everyReturn"
	SoonerHandChanges OneThing = "soonerHandChanges"
	BothSides         OneThing = "bothSides"
	WithoutCalls      OneThing = "withoutCalls"
	ByEar             OneThing = "byEar"
	WithCues          OneThing = "withCues"
)

// oneThings are all of them in words.
var oneThings = map[OneThing]string{
	Slower:            "slower",
	Softer:            "softer",
	PulledLess:        "drawn back less",
	PulledMore:        "drawn back further",
	MoreRebounds:      "more rebounds",
	SecondReturns:     "every second return",
	FewerHandChanges:  "fewer changes of hands",
	PartOnly:          "a part of it",
	StraightsOnly:     "straight punches only",
	Closer:            "closer",
	NoCues:            "no random cues",
	SeenToo:           "seen as well as heard",
	Quicker:           "quicker",
	MoreForce:         "more force",
	FurtherOut:        "from further out",
	HookLast:          "a hook for the last straight",
	UppercutLast:      "an uppercut for the last hook",
	EveryReturn:       "every return",
	SoonerHandChanges: "hands changed sooner",
	BothSides:         "twice over",
	WithoutCalls:      "without calls",
	ByEar:             "by ear only",
	WithCues:          "random cues over it",
}

// Words returns it as it is said: "every second return"; of one that is not known the code itself.
func (s OneThing) Words() string {
	if text, known := oneThings[s]; known {
		return text
	}
	return string(s)
}

// ReadOneThing reads it by its code or as it is said: older files have it in words. What is neither is kept as it is.
func ReadOneThing(text string) OneThing {
	for code, said := range oneThings {
		if said == text {
			return code
		}
	}
	return OneThing(text)
}
