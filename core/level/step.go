package level

// Step is the one thing by which a drill differs from another: a code, which is stored and compared.
type Step string

// What makes a drill easier, and then what makes it harder.
const (
	Slower            Step = "slower"
	Softer            Step = "softer"
	PulledLess        Step = "pulledLess"
	PulledMore        Step = "pulledMore"
	MoreRebounds      Step = "moreRebounds"
	SecondReturns     Step = "secondReturns"
	FewerHandChanges  Step = "fewerHandChanges"
	PartOnly          Step = "partOnly"
	StraightsOnly     Step = "straightsOnly"
	Closer            Step = "closer" // close to the bag and softly: form may be let go
	NoCues            Step = "noCues"
	SeenToo           Step = "seenToo"
	Quicker           Step = "quicker"
	MoreForce         Step = "moreForce"
	FurtherOut        Step = "furtherOut"
	HookLast          Step = "hookLast"
	UppercutLast      Step = "uppercutLast"
	EveryReturn       Step = "everyReturn"
	SoonerHandChanges Step = "soonerHandChanges"
	BothSides         Step = "bothSides"
	WithoutCalls      Step = "withoutCalls"
	ByEar             Step = "byEar"
	WithCues          Step = "withCues"
)

// steps are the steps in words.
var steps = map[Step]string{
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

// Words returns a step as it is said: "every second return"; of one that is not known the code itself.
func (s Step) Words() string {
	if text, known := steps[s]; known {
		return text
	}
	return string(s)
}

// ReadStep reads a step, by its code or as it is said: older files have it in words. What is neither is kept as it is.
func ReadStep(text string) Step {
	for code, said := range steps {
		if said == text {
			return code
		}
	}
	return Step(text)
}
