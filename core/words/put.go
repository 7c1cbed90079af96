package words

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
)

// quantity is one figure, or a range, with a unit of the SI as sentences write it.
var quantity = regexp.MustCompile(`(-?\d+(?:\.\d+)?)(?:( to )(-?\d+(?:\.\d+)?))? (m/s|cm|m|kg)\b`)

// Put rewrites the metric quantities of a sentence for a gym that has other units: lengths, speeds and masses. It is
// for sentences such as refusals, which are made where nobody knows the gym.
func (u Units) Put(sentence string) string {
	if u != Imperial {
		return sentence
	}
	return quantity.ReplaceAllStringFunc(sentence, func(found string) string {
		part := quantity.FindStringSubmatch(found)
		to := func(text string) string {
			v, _ := strconv.ParseFloat(text, 64) // the expression lets numbers through alone
			switch part[4] {
			case "m/s":
				return fmt.Sprintf("%.1f ft/s", v/foot)
			case "kg":
				return Trimmed(v*2.204623) + " lb"
			case "cm":
				return u.Length(v / 100)
			}
			return u.Length(v)
		}
		if part[2] == "" {
			return to(part[1])
		}
		low, high := to(part[1]), to(part[3])
		at := strings.LastIndexByte(low, ' ')
		if strings.HasSuffix(high, low[at:]) && !strings.Contains(high, "ft ") {
			low = low[:at] // the unit once, but for feet with inches
		}
		return low + part[2] + high
	})
}
