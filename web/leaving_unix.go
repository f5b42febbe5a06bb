//go:build unix

package web

import "syscall"

// left is true of a connection whose other end is closed.
func left(raw syscall.RawConn) (gone bool) {
	err := raw.Control(func(socket uintptr) {
		var one [1]byte
		n, _, err := syscall.Recvfrom(int(socket), one[:], syscall.MSG_PEEK|syscall.MSG_DONTWAIT)
		gone = n == 0 && err == nil || err == syscall.ECONNRESET || err == syscall.EPIPE
	})
	return gone || err != nil
}
