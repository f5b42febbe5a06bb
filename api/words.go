package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"bractum/store"
)

// LanguagesView is what the interface can be read in.
type LanguagesView struct {
	Languages []string `json:"languages" doc:"besides English, by the names of their files"`
}

func (s *Service) registerWords(to huma.API) {
	read(to, get("/words", "get-languages", "The languages that the studio has words of"),
		func(_ context.Context, _ *none) (LanguagesView, error) {
			languages, err := s.store.Languages()
			return LanguagesView{languages}, err
		})
	type asked struct {
		Language string `path:"language" maxLength:"32"`
	}
	read(to, get("/words/{language}", "get-words", "The interface's words in a language"),
		func(_ context.Context, in *asked) (store.Words, error) { return s.store.Words(in.Language) })
}
