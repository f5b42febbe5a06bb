package api

import (
	"fmt"
	"maps"
	"slices"

	"bractum/store"
)

// What each role may read and do, by operation. A lead may everything. What is new is the lead's alone until it stands
// here. docs/security.md shows the whole as a table, which a test keeps true.

// everybodys operations need no sign-in: they tell whether one is needed, and are the door.
var everybodys = set("get-access", "sign-in", "sign-out", "join-as-tablet", "get-languages", "get-words")

// makers read what work needs, and record what they do.
var makers = set(
	"sit-down",
	"leave-seat",
	"get-studio",
	"get-bench",
	"get-day",
	"list-benches",
	"get-task",
	"get-card",
	"get-book",
	"open-page",
	"get-making",
	"get-picture",
	"export-parts",
	"get-mixing",
	"open-mix",
	"get-wires",
	"get-drying-room",
	"get-air",
	"get-stores",
	"get-ledger",
	"list-orders",
	"get-count",
	"open-cell",
	"get-plan",
	"get-whole-plan",
	"get-chain",
	"list-falls",
	"list-remarks",
	"get-proposal",
	"get-search",
	"get-beside",
	"get-workshop",
	"list-usual",
	"get-label-png",
	"get-label-svg",
	"read-scale",
	"reckon-tape",
	"follow-events",
	"get-beginning",
	"start-task",
	"pause-task",
	"count-task",
	"finish-task",
	"ask-for-help",
	"remark-on-task",
	"give-task",
	"keep-picture",
	"weigh-in",
	"record-weighing",
	"tare-scale",
	"record-cutting",
	"check-drying",
	"put-elsewhere",
	"set-off-load",
	"keep-stock",
	"spoil-stock",
	"start-timer",
	"stop-timer",
	"print-label",
	"say-of-air",
	"unsay-of-air",
	"undo",
	"get-journal",
	"get-journal-line",
	"get-health",
	"get-sheet",
	"pack-line",
	"count-out",
	"fill-boxes",
	"find-anything",
)

// handsOver is what somebody needs who sees what leaves, and signs it off.
var handsOver = set(
	"sit-down", "leave-seat",
	"get-studio", "list-orders", "list-past-orders", "hand-over", "hand-over-part", "get-label-png", "get-label-svg",
	"get-picture", "get-health", "follow-events", "get-beside", "get-proposal", "get-beginning",
	"get-sheet", "pack-line", "count-out", "fill-boxes", "sign-off", "came-back", "hear-after", "undo", "find-anything",
)

// purposes are what keys are for.
var purposes = map[string]map[string]bool{
	"sensor":   set("send-readings"),
	"reader":   set("get-studio", "list-orders", "get-plan", "get-day", "get-stores", "get-drying-room", "get-air"),
	"calendar": calendars,
}

// calendars are subscribed to by programs that can send no more than an address: their keys stand in it.
var calendars = set("get-hand-overs-calendar", "get-drying-calendar", "get-person-calendar")

// Subscribed says whether an operation is a calendar.
func Subscribed(operation string) bool { return calendars[operation] }

func set(names ...string) map[string]bool {
	all := map[string]bool{}
	for _, name := range names {
		all[name] = true
	}
	return all
}

// May says whether a role may give an operation; everybody is a role as well, "".
func May(role, operation string) bool {
	switch role {
	case store.Lead:
		return true
	case store.Maker:
		return everybodys[operation] || makers[operation]
	case store.HandOver:
		return everybodys[operation] || handsOver[operation]
	}
	return everybodys[operation]
}

// AllOf are the operations that a role may give, in order; none of the lead's, who may all.
func AllOf(role string) []string {
	all := maps.Clone(everybodys)
	switch role {
	case store.Maker:
		maps.Copy(all, makers)
	case store.HandOver:
		maps.Copy(all, handsOver)
	default:
		return nil
	}
	return slices.Sorted(maps.Keys(all))
}

// KeyMay says whether a key of a purpose opens an operation; a calendar's only where it is the one it opens.
func KeyMay(k store.Key, operation, path string) bool {
	return purposes[k.Purpose][operation] && (k.Opens == "" || path == "/api/calendars/"+k.Opens+".ics")
}

// notTheirs says that a role may not do something.
func notTheirs(role string) string {
	return fmt.Sprintf("this is not for the role %q; ask a lead. Nothing was done", role)
}
