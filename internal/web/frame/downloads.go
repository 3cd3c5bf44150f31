package frame

import (
	"context"
	"fmt"
	"io"
	"mime"
	"net/http"
	"net/url"

	"golang.org/x/text/unicode/norm"

	"github.com/go-chi/chi/v5/middleware"

	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
)

// sizeWords is a number of bytes for people.
func sizeWords(n int64) string {
	if n < 1<<20 {
		return fmt.Sprintf("%d KiB", (n+1023)>>10)
	}
	return fmt.Sprintf("%d.%d MiB", n>>20, n>>10%1024*10/1024)
}

// noting notes on the trail what was taken out, also where it was broken off.
func (fr *Frame) noting(what string, next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		seen := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		defer func() {
			if r.Method != http.MethodGet || seen.Status() >= http.StatusMultipleChoices || seen.BytesWritten() == 0 {
				return
			}
			named := what
			if _, params, err := mime.ParseMediaType(seen.Header().Get("Content-Disposition")); err == nil && params["filename"] != "" {
				named += ", " + params["filename"]
			}
			// Whoever asked may have gone meanwhile; what they took they have.
			if _, err := fr.records.NoteDeed(context.WithoutCancel(r.Context()), store.By{Actor: ActorOf(r)}, office.Taken.Named(named)); err != nil {
				fr.Log.Error("what was taken out could not be noted on the trail", "error", err, "what", named)
			}
		}()
		next(seen, r)
	}
}

// Attachment sends a file to be kept.
func Attachment(w http.ResponseWriter, kind, name string, data []byte) {
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", "attachment; filename*=UTF-8''"+url.PathEscape(name))
	w.Write(data)
}

// SentFile is what was uploaded, as it is, with the file's name: the file where one was chosen, else what was typed.
func SentFile(r *http.Request, v url.Values) (name string, data []byte, err error) {
	file, head, err := r.FormFile("file")
	if err == nil {
		defer file.Close()
		if data, err = io.ReadAll(file); err != nil {
			return "", nil, err
		}
	}
	if len(data) == 0 {
		return "what was typed", []byte(v.Get("text")), nil
	}
	return head.Filename, data, nil
}

// Sent is the text of an upload: the file where one was chosen, else what was typed.
func Sent(r *http.Request, v url.Values) (string, error) {
	file, _, err := r.FormFile("file")
	if err != nil {
		return v.Get("text"), nil
	}
	defer file.Close()
	data, err := io.ReadAll(file)
	if err != nil || len(data) == 0 {
		return v.Get("text"), err
	}
	return norm.NFC.String(string(data)), nil
}
