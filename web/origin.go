package web

import (
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"strings"

	"github.com/gofiber/fiber/v3"
)

// names are what a studio is asked for by, beside the address that it listens on.
type names map[string]bool

// mayAsk answers only what asks for this studio by its own name or address, and only its own pages. A name that is
// made to lead here later (DNS rebinding) and a page of another site get nothing. An address cannot be made to lead
// elsewhere, so that of the connection itself is always one of ours.
func (n names) mayAsk(c fiber.Ctx) error {
	if !n.own(string(c.Request().Host()), c.RequestCtx().LocalIP()) {
		return fiber.NewError(http.StatusMisdirectedRequest,
			"Bractum is not known by this name; ask for it by its address, or name it with --host. Nothing was done")
	}
	if from := c.Get("Origin"); from != "" {
		if at, err := url.Parse(from); err != nil || at.Host == "" ||
			!strings.EqualFold(at.Host, string(c.Request().Host())) {
			return foreign()
		}
	}
	if strings.HasPrefix(c.Path(), "/api/") {
		if site := c.Get("Sec-Fetch-Site"); site == "cross-site" || site == "same-site" {
			return foreign()
		}
	}
	return c.Next()
}

func foreign() error {
	return fiber.NewError(http.StatusForbidden, "only Bractum's own pages may ask this. Nothing was done")
}

// own says whether a Host header is a name of ours, or the address that was connected to.
func (n names) own(host string, connected net.IP) bool {
	name := host
	if only, _, err := net.SplitHostPort(host); err == nil {
		name = only
	}
	name = strings.ToLower(strings.TrimSuffix(strings.Trim(name, "[]"), "."))
	if name == "localhost" || n[name] {
		return true
	}
	asked, err := netip.ParseAddr(name)
	if err != nil {
		return false
	}
	here, _ := netip.AddrFromSlice(connected)
	return asked.Unmap().IsLoopback() || asked.Unmap() == here.Unmap()
}
