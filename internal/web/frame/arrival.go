package frame

import (
	"context"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"slices"
	"strings"

	"github.com/go-chi/chi/v5/middleware"
)

// Proxies parses the addresses and networks of proxies whose word is taken, such as 127.0.0.1 or 10.0.0.0/8.
func Proxies(texts []string) (out []netip.Prefix, err error) {
	for _, text := range texts {
		if addr, err := netip.ParseAddr(text); err == nil {
			out = append(out, netip.PrefixFrom(addr.Unmap(), addr.Unmap().BitLen()))
			continue
		}
		p, err := netip.ParsePrefix(text)
		if err != nil {
			return nil, err
		}
		out = append(out, p.Masked())
	}
	return out, nil
}

// strictly is how long a browser that came over TLS comes over nothing else: a year.
const strictly = "max-age=31536000"

type securedKey struct{}

// Secured reports whether a request came over TLS: to this program, or to a proxy whose word is taken.
func Secured(r *http.Request) bool {
	secured, _ := r.Context().Value(securedKey{}).(bool)
	return secured
}

// Link is an address of this site as others type it or read it from a code.
func Link(r *http.Request, path string) string {
	scheme := "http"
	if Secured(r) {
		scheme = "https"
	}
	return (&url.URL{Scheme: scheme, Host: r.Host, Path: path}).String()
}

// Back is an address that somebody is led back to: on this site, whatever was asked for; anything else is the home screen.
func Back(to string) string {
	p, err := url.Parse(to)
	if err != nil || p.Host != "" || p.Scheme != "" || p.User != nil || !strings.HasPrefix(p.Path, "/") {
		return "/"
	}
	// What browsers read as another site: a second slash, or what they take for one.
	at := p.RequestURI()
	if strings.ContainsFunc(p.Path, func(c rune) bool { return c == '\\' || c < ' ' }) || strings.HasPrefix(p.Path, "//") || strings.HasPrefix(at, "//") {
		return "/"
	}
	return at
}

// arrive finds out how a request came. Where it came through a proxy that is named, scheme, host and the address of who
// asks are what that proxy says; else they are the connection's, whatever the request says. A host that is not
// one of the school's names is refused.
func (fr *Frame) arrive(next http.Handler) http.Handler {
	came := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		secured := r.TLS != nil
		if fr.byProxy(r) {
			secured = strings.EqualFold(lastOf(r, "X-Forwarded-Proto"), "https")
			if host := lastOf(r, "X-Forwarded-Host"); host != "" {
				r.Host = host
			}
		}
		r = r.WithContext(context.WithValue(r.Context(), securedKey{}, secured))
		if secured {
			w.Header().Set("Strict-Transport-Security", strictly)
		}
		if len(fr.Access.Hosts) > 0 && !slices.Contains(fr.Access.Hosts, hostOf(r)) {
			fr.Message(w, r, http.StatusMisdirectedRequest, "Not under this name", "This school answers to "+strings.Join(fr.Access.Hosts, ", ")+". Use the address you were given.")
			return
		}
		next.ServeHTTP(w, r)
	})
	if len(fr.Access.Proxies) == 0 {
		return came
	}
	named := make([]string, len(fr.Access.Proxies))
	for i, p := range fr.Access.Proxies {
		named[i] = p.String()
	}
	return middleware.ClientIPFromXFF(named...)(came)
}

// byProxy reports whether a request's connection is that of a proxy whose word is taken.
func (fr *Frame) byProxy(r *http.Request) bool {
	at, err := netip.ParseAddrPort(r.RemoteAddr)
	return err == nil && slices.ContainsFunc(fr.Access.Proxies, func(p netip.Prefix) bool { return p.Contains(at.Addr().Unmap()) })
}

// lastOf is the last value of a header: what the nearest proxy wrote.
func lastOf(r *http.Request, header string) string {
	all := r.Header.Values(header)
	if len(all) == 0 {
		return ""
	}
	parts := strings.Split(all[len(all)-1], ",")
	return strings.TrimSpace(parts[len(parts)-1])
}

// hostOf is the name a request was sent to, without its port.
func hostOf(r *http.Request) string {
	host, _, err := net.SplitHostPort(r.Host)
	if err != nil {
		host = r.Host
	}
	return strings.ToLower(strings.Trim(strings.TrimSuffix(host, "."), "[]"))
}

// FromHere reports whether a request was sent to this very machine: other devices cannot use its address.
func FromHere(r *http.Request) bool {
	ip, err := netip.ParseAddr(hostOf(r))
	return hostOf(r) == "localhost" || err == nil && ip.IsLoopback()
}

// Asker is the address a request comes from: the other end of the connection or, where that is a proxy whose word is taken,
// what it says.
func Asker(r *http.Request) string {
	if ip := middleware.GetClientIP(r.Context()); ip != "" {
		return ip
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}
