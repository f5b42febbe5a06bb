package main

import (
	"bufio"
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io"
	"net"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"golang.org/x/term"

	"bractum/api"
	"bractum/certificate"
	"bractum/core/studio"
	"bractum/store"
	"bractum/web"
)

// networkFlags say where a studio is reached. By itself it is only from its own computer.
type networkFlags struct {
	Listen string   `help:"Address and port to listen on, as 0.0.0.0:8080 for the whole network; needs a lead with a password." placeholder:"HOST:PORT"`
	Host   []string `help:"A name that the studio is reached by on its network." placeholder:"NAME"`
	HTTPS  bool     `name:"https" help:"Serve over HTTPS, with a certificate that Bractum makes for this studio."`
	Cert   string   `help:"Serve over HTTPS with this certificate." type:"existingfile" placeholder:"FILE"`
	Key    string   `help:"The certificate's key." type:"existingfile" placeholder:"FILE"`
}

// listen is the address, and whether others than this computer reach it.
func (f networkFlags) listen(port int) (address string, others bool, err error) {
	if f.Listen == "" {
		return loopback(port), false, nil
	}
	host, number, err := net.SplitHostPort(f.Listen)
	if err != nil {
		return "", false, fmt.Errorf("--listen %s: an address and a port would be right, as 0.0.0.0:8080", f.Listen)
	}
	if n, err := strconv.Atoi(number); err != nil || n < 0 || n > 65535 {
		return "", false, fmt.Errorf("--listen %s: %q is no port; 8080 would be one", f.Listen, number)
	}
	ip := net.ParseIP(host)
	return f.Listen, host != "localhost" && (ip == nil || !ip.IsLoopback()), nil
}

// errOpen says why a studio is not opened to a network.
var errOpen = errors.New("others on the network could read and write everything: no lead has a password yet. " +
	"Set one (bractum password --data FOLDER), or leave --listen away. Nothing was opened")

// guarded refuses to open a studio to others before somebody has to sign in.
func guarded(ctx context.Context, s *store.Store) error {
	all, err := s.Accesses(ctx)
	if err != nil {
		return err
	}
	for _, a := range all {
		if a.Role == store.Lead && a.Password != "" {
			return nil
		}
	}
	return errOpen
}

// reached are the addresses of this computer in its networks.
func reached() (all []net.IP) {
	addresses, err := net.InterfaceAddrs()
	if err != nil {
		return nil
	}
	for _, a := range addresses {
		if n, is := a.(*net.IPNet); is && n.IP.IsGlobalUnicast() {
			all = append(all, n.IP)
		}
	}
	return all
}

// secured puts HTTPS on a listener where that is wanted, and tells of a root that is new to tablets.
func (f networkFlags) secured(on net.Listener, app *web.Application, folder string) (net.Listener, error) {
	var own tls.Certificate
	switch {
	case f.Cert != "" && f.Key != "":
		given, err := tls.LoadX509KeyPair(f.Cert, f.Key)
		if err != nil {
			return nil, fmt.Errorf("the certificate cannot be used: %w", err)
		}
		own = given
	case f.Cert != "" || f.Key != "":
		return nil, errors.New("--cert and --key belong together")
	case f.HTTPS:
		names := append([]string{"localhost"}, f.Host...)
		if name, err := os.Hostname(); err == nil {
			names = append(names, name, name+".local")
		}
		made, err := certificate.For(filepath.Join(folder, "certificates"), names,
			append(reached(), net.IPv4(127, 0, 0, 1), net.IPv6loopback), time.Now())
		if err != nil {
			return nil, fmt.Errorf("no certificate could be made: %w", err)
		}
		app.Root(made.PEM(), made.Fingerprint())
		fmt.Printf(
			"Tablets trust it once by the studio's root, at /root.crt; its fingerprint is\n  %s\n",
			made.Fingerprint(),
		)
		own = made.TLS
	default:
		return on, nil
	}
	return tls.NewListener(on, &tls.Config{Certificates: []tls.Certificate{own}, MinVersion: tls.VersionTLS12}), nil
}

func (f networkFlags) scheme() string {
	if f.HTTPS || f.Cert != "" {
		return "https"
	}
	return "http"
}

type passwordCommand struct {
	Data   string `help:"Folder of the studio's file." default:"./data" type:"existingdir"`
	Person string `help:"Whose; the first lead's, or the first person's, if nobody is named." placeholder:"NAME"`
}

// Run gives somebody a password and makes them lead; whoever is at this computer may do that. It is read from standard
// input, and its other browsers are signed out.
func (c *passwordCommand) Run() error {
	ctx := context.Background()
	s, err := studioIn(ctx, c.Data)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }() // what is written is written
	doc, _, err := s.Document(ctx, store.Accepted, clockOf)
	if err != nil {
		return err
	}
	all, err := s.Accesses(ctx)
	if err != nil {
		return err
	}
	person, err := c.whose(doc, all)
	if err != nil {
		return err
	}
	fmt.Fprintf(os.Stderr, "Another password for %s, ten letters or more: ", person.Name)
	password, err := typedUnseen()
	if err != nil {
		return err
	}
	if err := api.GoodPassword(password, person.Name); err != nil {
		return err
	}
	access := store.Access{Person: person.ID}
	for _, a := range all {
		if a.Person == person.ID {
			access = a
		}
	}
	access.Role = store.Lead
	if access.Password, err = api.Hash(password); err != nil {
		return err
	}
	_, err = s.Do(ctx, store.Command{ID: uuid.NewString(), Kind: "access changed", Person: person.ID, Now: doc.Now},
		func(tx *store.Tx) (any, error) {
			tx.Summary = person.Name + " has another password, set at the studio's computer"
			return nil, tx.SetAccess(access, true, "")
		})
	if err == nil {
		fmt.Printf("%s signs in with it now, as lead.\n", person.Name)
	}
	return err
}

// typedUnseen is a line of standard input, which a terminal does not show.
func typedUnseen() (string, error) {
	if at := int(os.Stdin.Fd()); term.IsTerminal(at) {
		line, err := term.ReadPassword(at)
		fmt.Fprintln(os.Stderr)
		return string(line), err
	}
	line, err := bufio.NewReader(io.LimitReader(os.Stdin, 1000)).ReadString('\n')
	if errors.Is(err, io.EOF) {
		err = nil
	}
	return strings.TrimRight(line, "\r\n"), err
}

func (c *passwordCommand) whose(doc *studio.Document, all []store.Access) (studio.Person, error) {
	lead := func(p studio.Person) bool {
		for _, a := range all {
			if a.Person == p.ID && a.Role == store.Lead {
				return true
			}
		}
		return false
	}
	var names []string
	var first *studio.Person
	for i, p := range doc.People {
		if p.OutOfUse {
			continue
		}
		names = append(names, p.Name)
		if strings.EqualFold(p.Name, c.Person) || c.Person == "" && lead(p) {
			return p, nil
		}
		if first == nil {
			first = &doc.People[i]
		}
	}
	if c.Person != "" || first == nil {
		return studio.Person{}, fmt.Errorf(
			"nobody is called %q here; there are %s",
			c.Person,
			strings.Join(names, ", "),
		)
	}
	return *first, nil
}
