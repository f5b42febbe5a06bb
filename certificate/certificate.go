// Package certificate makes what a studio needs to be read over HTTPS on its own network: a root of its own, which a
// tablet trusts once, and under it a certificate for the names and addresses that the studio is reached by.
package certificate

import (
	"bytes"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"strings"
	"time"
)

const (
	rootLasts = 10 * 365 * 24 * time.Hour
	lasts     = 390 * 24 * time.Hour // browsers take none of a longer life
	renewed   = 30 * 24 * time.Hour
)

// Own is a studio's own certificate with its root.
type Own struct {
	TLS  tls.Certificate
	Root *x509.Certificate
}

// Fingerprint is what a root is recognised by: SHA-256, in pairs.
func (o Own) Fingerprint() string {
	sum := sha256.Sum256(o.Root.Raw)
	return strings.ReplaceAll(fmt.Sprintf("% X", sum[:]), " ", ":")
}

// PEM is the root as a file that a tablet takes in.
func (o Own) PEM() []byte {
	return pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: o.Root.Raw})
}

// For opens the certificates of a folder, or makes them: the root once, the studio's own anew where its names and
// addresses are others, or its time is nearly over.
func For(folder string, names []string, addresses []net.IP, now time.Time) (Own, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return Own{}, err
	}
	root, err := pair(filepath.Join(folder, "root"), func(key *ecdsa.PrivateKey) ([]byte, error) {
		t := template("Bractum, this studio's own root", now, rootLasts)
		t.IsCA, t.BasicConstraintsValid, t.MaxPathLenZero = true, true, true
		t.KeyUsage = x509.KeyUsageCertSign | x509.KeyUsageCRLSign
		return x509.CreateCertificate(rand.Reader, t, t, key.Public(), key)
	}, func(c *x509.Certificate) bool { return c.IsCA && now.Before(c.NotAfter) })
	if err != nil {
		return Own{}, err
	}
	own, err := pair(filepath.Join(folder, "studio"), func(key *ecdsa.PrivateKey) ([]byte, error) {
		t := template("Bractum", now, lasts)
		t.DNSNames, t.IPAddresses = names, addresses
		t.KeyUsage, t.ExtKeyUsage = x509.KeyUsageDigitalSignature, []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}
		return x509.CreateCertificate(rand.Reader, t, root.Leaf, key.Public(), root.PrivateKey)
	}, func(c *x509.Certificate) bool {
		return now.Add(renewed).Before(c.NotAfter) && c.CheckSignatureFrom(root.Leaf) == nil &&
			covers(c, names, addresses)
	})
	if err != nil {
		return Own{}, err
	}
	own.Certificate = append(own.Certificate, root.Leaf.Raw)
	return Own{TLS: own, Root: root.Leaf}, nil
}

func covers(c *x509.Certificate, names []string, addresses []net.IP) bool {
	for _, name := range names {
		if c.VerifyHostname(name) != nil {
			return false
		}
	}
	for _, a := range addresses {
		if c.VerifyHostname(a.String()) != nil {
			return false
		}
	}
	return true
}

func template(name string, now time.Time, lasts time.Duration) *x509.Certificate {
	serial, _ := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120)) // never fails
	return &x509.Certificate{SerialNumber: serial, Subject: pkix.Name{CommonName: name}, NotBefore: now.Add(-time.Hour),
		NotAfter: now.Add(lasts)}
}

// pair reads a certificate and its key, or makes both anew where there are none that will do.
func pair(
	name string,
	sign func(*ecdsa.PrivateKey) ([]byte, error),
	good func(*x509.Certificate) bool,
) (tls.Certificate, error) {
	is, err := tls.LoadX509KeyPair(name+".pem", name+".key")
	if err == nil && good(is.Leaf) {
		return is, nil
	}
	if _, missing := os.Stat(name + ".key"); err != nil && !errors.Is(missing, fs.ErrNotExist) {
		return is, fmt.Errorf(
			"%s.pem and %s.key cannot be read (%w); take both away to have others made",
			name,
			name,
			err,
		)
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return is, err
	}
	signed, err := sign(key)
	if err != nil {
		return is, err
	}
	private, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return is, err
	}
	var public, secret bytes.Buffer
	if err := errors.Join(pem.Encode(&public, &pem.Block{Type: "CERTIFICATE", Bytes: signed}),
		pem.Encode(&secret, &pem.Block{Type: "PRIVATE KEY", Bytes: private}),
		os.WriteFile(name+".key", secret.Bytes(), 0o600), os.WriteFile(name+".pem", public.Bytes(), 0o644)); err != nil {
		return is, err
	}
	return tls.X509KeyPair(public.Bytes(), secret.Bytes())
}
