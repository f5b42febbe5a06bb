package paste

import "bractum/core/studio"

// onBoard is how long paste lies uncovered before it crusts: minutes, as makers say.
const onBoard studio.Minute = 20

// Life is how long a mix keeps in a way of keeping it: minutes on the board, what its
// recipe says when it is wrapped, longer in a closed bag in the cold.
func Life(mix *studio.Recipe, kept studio.Kept) studio.Minute {
	switch kept {
	case studio.OnBoard:
		return min(onBoard, mix.LifeMinutes)
	case studio.Cold:
		return max(mix.LifeMinutes, mix.LifeColdMinutes)
	}
	return mix.LifeMinutes
}

// UseBy is until when a mix keeps that was made at one minute and is put away in some way
// at another: for its life there, and in all no longer than in the cold from the start.
func UseBy(mix *studio.Recipe, kept studio.Kept, made, now studio.Minute) studio.Minute {
	return min(now+Life(mix, kept), made+Life(mix, studio.Cold))
}
