package frame

import (
	"fmt"
	"io"
	"net/http"
	"net/url"
)

// sizeWords is a number of bytes for people.
func sizeWords(n int64) string {
	if n < 1<<20 {
		return fmt.Sprintf("%d KiB", (n+1023)>>10)
	}
	return fmt.Sprintf("%d.%d MiB", n>>20, n>>10%1024*10/1024)
}

// Attachment sends a file to be kept.
func Attachment(w http.ResponseWriter, kind, name string, data []byte) {
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", "attachment; filename*=UTF-8''"+url.PathEscape(name))
	w.Write(data)
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
	return string(data), nil
}
