package studio

import "net/url"

// Devices are what stands in the studio and is spoken to over its network, each by its address; empty where there is
// none.
type Devices struct {
	Scale   string `json:"scale,omitempty"`
	Printer string `json:"printer,omitempty"`
}

// longestAddress is an address's greatest length in bytes.
const longestAddress = 300

// address checks where something outside is reached: over HTTP, by a host that is named, without a password in it.
func (v *validator) address(place, address string) {
	if address == "" {
		return
	}
	u, err := url.Parse(address)
	if err != nil || len(address) > longestAddress || u.Scheme != "http" && u.Scheme != "https" || u.Hostname() == "" ||
		u.User != nil || u.RawQuery != "" || u.Fragment != "" {
		v.say(place, "is no address; http://192.168.0.20:8091 would be right")
	}
}

// devices checks where the studio's own are reached.
func (v *validator) devices(d Devices) {
	v.address("settings.devices.scale", d.Scale)
	v.address("settings.devices.printer", d.Printer)
}
