package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"encoding/json"
)

func TestZZStranger(t *testing.T) {
	if os.Getenv("STR") == "" { t.Skip() }
	s := start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0")
	x := open(t, s, 1280, 800)
	x.visit("/welcome?code=" + x.code)
	x.fill("school", "Weir House")
	x.fill("name", "Odo Brand")
	x.fill("sign_in", "odo")
	x.fill("password", "four odd grain sacks")
	x.submit("main .button.is-primary")
	x.fill("name", "River way")
	x.submit("main .button.is-primary")
	for i, name := range []string{"No belt", "Yellow belt"} {
		x.visit("/rungs/new")
		x.fill("name", name)
		x.fill("colour", []string{"#ffffff", "#f0c030"}[i])
		x.submit("main .button.is-primary")
	}
	rung := eval[string](x, `[...document.querySelectorAll(".rungs a")].find(a => a.title.startsWith("Yellow")).pathname.split("/").at(-1)`)
	page, _ := os.ReadFile(os.Getenv("STR"))
	text, _ := json.Marshal(string(page))
	x.visit("/binder/" + rung)
	eval[any](x, `(()=>{const t=document.querySelector('#f-page'); t.value=`+string(text)+`; t.dispatchEvent(new Event('input',{bubbles:true})); return true})()`)
	x.until(`document.querySelectorAll("[data-binder-read] > li").length > 4`)
	x.picture("/tmp/w/shot/stranger.png")
	for _, l := range eval[[]string](x, `[...document.querySelectorAll("[data-binder-read] > li")].map(l => { const s = l.querySelector("select"); return [...l.childNodes].map(n => n.tagName === "SELECT" ? "{" + n.selectedOptions[0].textContent + "}" : n.textContent).join(" ").replace(/\s+/g, " ") + (s ? " {" + s.selectedOptions[0].textContent + "}" : "") })`) {
		fmt.Println(l)
	}
}
