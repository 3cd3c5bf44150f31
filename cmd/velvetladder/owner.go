package main

import (
	"context"
	"crypto/rand"
	"fmt"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
)

type ownerCommand struct {
	DB    string `help:"The school's database file. It may be served meanwhile." default:"velvetladder.db" type:"path"`
	Reset string `help:"The name somebody signs in with who gets a new password, and whose second factor goes." placeholder:"NAME"`
}

// Run says who owns the school, or gives somebody a new password that it prints: for whoever can be at the machine itself, when one
// was forgotten or a phone was lost.
func (c ownerCommand) Run(s streams) error {
	ctx := context.Background()
	db, err := records(ctx, c.DB)
	if err != nil {
		return err
	}
	defer db.Close()
	all, err := db.People(ctx)
	if err != nil {
		return err
	}
	if len(all) == 0 {
		return fmt.Errorf("nobody owns this school yet; the program prints an address with a code when it is started, and whoever opens that one may")
	}
	for _, p := range all {
		if c.Reset == "" {
			factor := ""
			if p.Second {
				factor = ", with a second factor"
			}
			fmt.Fprintf(s.out, "%s signs in as %s: %s%s\n", p.Name, p.SignIn, p.Role, factor)
			continue
		}
		if p.SignIn != check.Key(c.Reset) {
			continue
		}
		text := strings.ToLower(rand.Text())
		password := strings.Join([]string{text[:5], text[5:10], text[10:15], text[15:20]}, "-")
		if _, err := db.ResetPassword(ctx, store.By{Actor: "the machine itself"}, p.ID, password); err != nil {
			return err
		}
		fmt.Fprintf(s.out, "%s signs in as %s with the password %s from now on, without a second factor, and is signed out everywhere. Change it after signing in, at “Your account”.\n", p.Name, p.SignIn, password)
		return nil
	}
	if c.Reset != "" {
		return fmt.Errorf("nobody signs in as %q; without --reset all are listed", c.Reset)
	}
	return nil
}
