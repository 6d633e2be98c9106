package fact_test

import (
	"fmt"

	"tornister/core/fact"
)

func ExampleOf() {
	f := fact.Of("load.nest", fact.Litres(0.9))
	fmt.Println(f.Code, f.Values[0], f.None())
	// Output: load.nest 0.9 false
}
