package studio

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// ranges asks every small value of a document whether it makes sense, and names
// the place of each that does not.
func (v *validator) ranges(value reflect.Value, place string) {
	if value.Kind() == reflect.Pointer {
		if !value.IsNil() {
			v.ranges(value.Elem(), place)
		}
		return
	}
	if l, known := limits[value.Type()]; known {
		if n := value.Int(); n < l.least || n > l.most {
			v.say(place, "is %d; from %d to %d %s would be right", n, l.least, l.most, l.unit)
		}
		return
	}
	switch value.Kind() {
	case reflect.Struct:
		for i := range value.NumField() {
			field := value.Type().Field(i)
			if !field.IsExported() {
				continue
			}
			name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
			if field.Anonymous {
				v.ranges(value.Field(i), place)
			} else {
				v.ranges(value.Field(i), place+"."+name)
			}
		}
	case reflect.Slice:
		for i := range value.Len() {
			v.ranges(value.Index(i), fmt.Sprintf("%s[%d]%s", place, i, called(value.Index(i))))
		}
	case reflect.Map:
		keys := value.MapKeys()
		slices.SortFunc(keys, func(a, b reflect.Value) int { return strings.Compare(a.String(), b.String()) })
		for _, key := range keys {
			v.ranges(value.MapIndex(key), fmt.Sprintf("%s[%q]", place, key.String()))
		}
	}
}

// called is the name of a list's entry, to find it by.
func called(value reflect.Value) string {
	if value.Kind() != reflect.Struct {
		return ""
	}
	if name := value.FieldByName("Name"); name.IsValid() && name.Kind() == reflect.String && name.String() != "" {
		return fmt.Sprintf(" %q", name.String())
	}
	return ""
}
