package studio

import (
	"bytes"
	"encoding/json"
)

// lifts turn the raw JSON of a document of one version into the next one's: the
// first lifts version 0. A field that a new version adds without a lift must be
// one that may be left out.
var lifts = []func(document map[string]any){liftStiffness}

// lift brings a document of an earlier version to this one. What is not such a
// document is left as it is, for Read to say what is wrong with it.
func lift(data []byte) ([]byte, error) {
	var head struct {
		Format  string `json:"format"`
		Version int    `json:"version"`
	}
	if json.Unmarshal(data, &head) != nil || head.Format != Format || head.Version < 0 || head.Version >= Version {
		return data, nil
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	var document map[string]any
	if err := decoder.Decode(&document); err != nil {
		return data, nil
	}
	for _, raise := range lifts[head.Version:] {
		raise(document)
	}
	document["version"] = Version
	return json.Marshal(document)
}

// liftStiffness: version 0 had no stiff state; a class is stiff when it is dry.
func liftStiffness(document map[string]any) {
	classes, _ := document["dryingClasses"].([]any)
	for _, c := range classes {
		if class, ok := c.(map[string]any); ok && class["stiffMinutes"] == nil {
			class["stiffMinutes"] = class["dryMinutes"]
		}
	}
}
