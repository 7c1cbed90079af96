package drill

// Clock says who owns the time of a drill.
type Clock string

// The bag's clock is the usual one wherever a strike follows a strike on the bag's returns: each strike is due when the bag comes back
// from the one before it, at the force that one really had. On the beat's clock each strike is due at its planned moment, and force is
// the means to make the bag follow: the school of the steady circle, goal tempos, and strikes that no bag times.
const (
	ByBag  Clock = "bag"
	ByBeat Clock = "beat"
)
