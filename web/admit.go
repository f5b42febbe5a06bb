package web

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v3"

	"bractum/api"
)

// admit lets a request in, by the browser's cookie or a device's key; what is answered then knows who asks.
func (a *Application) admit(c fiber.Ctx, operation string, command bool) (context.Context, error) {
	key, _ := strings.CutPrefix(c.Get("Authorization"), "Bearer ")
	if api.Subscribed(operation) {
		key = c.Query("key")
	}
	who, err := a.service.Admit(c.Context(), api.Asking{Operation: operation, Command: command, Path: c.Path(),
		Token: c.Cookies(api.Cookie), Key: key, Person: c.Get("Person"), From: c.IP()})
	var status huma.StatusError
	if errors.As(err, &status) {
		if status.GetStatus() == http.StatusUnauthorized {
			c.Set("WWW-Authenticate", `Bearer realm="Bractum"`)
		}
		return nil, fiber.NewError(status.GetStatus(), status.Error())
	}
	return who.With(c.Context()), err
}
