//go:build !unix

package web

import "syscall"

// left cannot be told here: the answer is worked out for nobody, and thrown away.
func left(syscall.RawConn) bool { return false }
