package words_test

import (
	"fmt"

	"tornister/core/fact"
	"tornister/core/unit"
	"tornister/words"
)

func ExampleSay() {
	f := fact.Of("load.swing", fact.Grams(900), fact.Small("Front pocket"))
	fmt.Println(words.Say(f, unit.Metric))
	fmt.Println(words.Say(f, unit.Customary))
	// Output:
	// 900 g would pull backwards in the front pocket
	// 2 lb 0 oz would pull backwards in the front pocket
}
