package certificate_test

import (
	"crypto/tls"
	"crypto/x509"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/certificate"
)

// A browser that trusts the root once reads the studio by its name and its address, over every renewal; one that does
// not trusts nothing of it.
func TestARootIsTrustedOnce(t *testing.T) {
	folder, now := t.TempDir(), time.Now()
	here := []net.IP{net.ParseIP("127.0.0.1")}
	own, err := certificate.For(folder, []string{"loft.local"}, here, now)
	require.NoError(t, err)
	trusted := x509.NewCertPool()
	require.True(t, trusted.AppendCertsFromPEM(own.PEM()))
	reads := func(own certificate.Own, roots *x509.CertPool, name string) error {
		server := httptest.NewUnstartedServer(
			http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { _, _ = io.WriteString(w, "ok") }),
		)
		server.TLS = &tls.Config{Certificates: []tls.Certificate{own.TLS}}
		server.StartTLS()
		defer server.Close()
		client := http.Client{
			Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: roots, ServerName: name}},
		}
		answer, err := client.Get(server.URL)
		if err == nil {
			err = answer.Body.Close()
		}
		return err
	}
	require.NoError(t, reads(own, trusted, ""))
	require.NoError(t, reads(own, trusted, "loft.local"))
	require.Error(t, reads(own, trusted, "evil.example"))
	require.Error(t, reads(own, x509.NewCertPool(), "loft.local"))

	again, err := certificate.For(folder, []string{"loft.local"}, here, now)
	require.NoError(t, err)
	assert.Equal(t, own.TLS.Certificate, again.TLS.Certificate, "what is good is kept")
	moved, err := certificate.For(folder, []string{"loft.local"}, []net.IP{net.ParseIP("192.168.1.20"), here[0]}, now)
	require.NoError(t, err)
	assert.Equal(t, own.Fingerprint(), moved.Fingerprint())
	assert.NotEqual(t, own.TLS.Certificate[0], moved.TLS.Certificate[0])
	require.NoError(t, reads(moved, trusted, "192.168.1.20"))
	later, err := certificate.For(folder, []string{"loft.local"}, here, now.AddDate(1, 0, 0))
	require.NoError(t, err)
	assert.Equal(t, own.Fingerprint(), later.Fingerprint())
	assert.NotEqual(t, moved.TLS.Certificate[0], later.TLS.Certificate[0], "it is renewed before its time is over")

	secret, err := os.Stat(filepath.Join(folder, "root.key"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), secret.Mode())
	require.NoError(t, os.WriteFile(filepath.Join(folder, "root.pem"), []byte("torn"), 0o600))
	_, err = certificate.For(folder, nil, here, now)
	require.ErrorContains(t, err, "take both away", "a root that tablets trust is not replaced unasked")
}
