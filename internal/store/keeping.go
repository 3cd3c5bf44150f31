package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"golang.org/x/text/unicode/norm"

	"filippo.io/age"
	"filippo.io/age/armor"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
)

// Kept is an automatic backup on the disk.
type Kept struct {
	Name   string
	At     time.Time // in the school's zone
	Size   int64
	Sealed bool // encrypted
}

const (
	keptPrefix, keptTime = "velvetladder-", "20060102-150405"
	keptEnd, sealedEnd   = ".db", ".db.age"
	keyPrefix, keyEnd    = "velvetladder-key-", ".age" // identities that open sealed backups, each under its passphrase
)

// Backups are the automatic ones in a directory, the newest first. Other files are left alone.
func Backups(dir string, zone *time.Location) ([]Kept, error) {
	entries, err := os.ReadDir(dir)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	var out []Kept
	for _, e := range entries {
		text, ours := strings.CutPrefix(e.Name(), keptPrefix)
		bare, sealed := strings.CutSuffix(text, sealedEnd)
		whole := sealed
		if !sealed {
			bare, whole = strings.CutSuffix(text, keptEnd)
		}
		at, wrong := time.ParseInLocation(keptTime, bare, zone)
		if !ours || !whole || wrong != nil {
			continue
		}
		info, err := e.Info()
		if err != nil {
			continue
		}
		out = append(out, Kept{e.Name(), at, info.Size(), sealed})
	}
	slices.SortFunc(out, func(a, b Kept) int { return b.At.Compare(a.At) })
	return out, err
}

// How many automatic backups are kept: the newest of each of the last days, weeks and months that have one.
const (
	KeptDays, KeptWeeks, KeptMonths = 7, 8, 24
)

// Surplus are the backups the rule does not keep. all are the newest first. What is dated after now was made while a
// clock went wrong: it is counted by itself, and crowds nothing out.
func Surplus(all []Kept, now time.Time) []Kept {
	at := slices.IndexFunc(all, func(k Kept) bool { return !k.At.After(now) })
	if at < 0 {
		at = len(all)
	}
	return append(surplus(all[:at]), surplus(all[at:])...)
}

func surplus(all []Kept) (out []Kept) {
	keep := map[string]bool{}
	for _, rule := range []struct {
		most int
		of   func(time.Time) string
	}{
		{KeptDays, func(t time.Time) string { return t.Format("2006-01-02") }},
		{KeptWeeks, func(t time.Time) string { y, w := t.ISOWeek(); return fmt.Sprint(y, "-", w) }},
		{KeptMonths, func(t time.Time) string { return t.Format("2006-01") }},
	} {
		seen := map[string]bool{}
		for _, k := range all {
			if p := rule.of(k.At); !seen[p] && len(seen) < rule.most {
				seen[p] = true
				keep[k.Name] = true
			}
		}
	}
	for _, k := range all {
		if !keep[k.Name] {
			out = append(out, k)
		}
	}
	return out
}

// KeepBackup makes an automatic backup in a directory, sealed where there is a key, and then takes away those the rule does not keep
// and what a killed program left unfinished. The new one is there, looked through, before any goes.
func (s *Store) KeepBackup(ctx context.Context, by By, dir string) (Kept, error) {
	s.keeping.Lock()
	defer s.keeping.Unlock()
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return Kept{}, err
	}
	if err := tidy(dir); err != nil {
		return Kept{}, err
	}
	key, err := s.BackupKey(ctx)
	if err != nil {
		return Kept{}, err
	}
	name := keptPrefix + s.now().In(s.zone).Format(keptTime) + keptEnd
	if _, err := os.Stat(filepath.Join(dir, name+".age")); err == nil {
		return Kept{}, fmt.Errorf("%s.age is there already; a backup is a new file", name)
	}
	path := filepath.Join(dir, name)
	if key.Recipient != "" {
		path += partEnd + "-clear" // a name that is tidied, should the program be killed before it is sealed
	}
	if err := s.Backup(ctx, path); err != nil {
		return Kept{}, err
	}
	found, err := CheckFile(ctx, path)
	if err != nil {
		return Kept{}, err
	}
	if key.Recipient != "" {
		name += ".age"
		err := keepKey(dir, key)
		if err == nil {
			err = seal(key.Recipient, path, filepath.Join(dir, name))
		}
		if err := errors.Join(err, discard(path)); err != nil {
			return Kept{}, err
		}
	}
	all, err := Backups(dir, s.zone)
	if err != nil {
		return Kept{}, err
	}
	for _, old := range Surplus(all, s.now()) {
		if err := remove(filepath.Join(dir, old.Name)); err != nil {
			return Kept{}, err
		}
	}
	at := slices.IndexFunc(all, func(k Kept) bool { return k.Name == name })
	if at < 0 {
		return Kept{}, fs.ErrNotExist
	}
	return all[at], s.lookedThrough(ctx, by, "made", name, found)
}

// tidy takes away what a program that was killed left unfinished.
func tidy(dir string) error {
	left, err := filepath.Glob(filepath.Join(dir, keptPrefix+"*"+partEnd+"*"))
	for _, f := range left {
		if err = errors.Join(err, between("remove")); err == nil {
			err = os.RemoveAll(f)
		}
	}
	return err
}

// BackupDue reports whether no automatic backup was made today, whatever other days there are. Where the directory
// cannot be read one is due: making it says what is wrong.
func (s *Store) BackupDue(dir string) bool {
	all, err := Backups(dir, s.zone)
	today := s.Today().String()
	return err != nil || !slices.ContainsFunc(all, func(k Kept) bool { return k.At.Format("2006-01-02") == today })
}

// BackupKey says to whom automatic backups are encrypted.
type BackupKey struct {
	Recipient string // age1…; "" they are not encrypted
	Identity  string // an age file, armoured: the identity under its passphrase
	At        time.Time
	Actor     string
}

// BackupKey is the key of this school's backups.
func (s *Store) BackupKey(ctx context.Context) (BackupKey, error) {
	k, err := one(ctx, s.r, func(k *BackupKey) []any { return []any{&k.Recipient, &k.Identity, asTime{&k.At}, &k.Actor} }, `SELECT recipient, identity, at, actor FROM backup_key`)
	k.At = k.At.In(s.zone)
	return k, ignoreMissing(err)
}

// sealWork is the cost of a passphrase, as a power of two: 64 MiB for as long as it is looked at, like a password.
const sealWork = 16

// SealBackups has backups encrypted from now on, to a new identity that lies under a passphrase. The passphrase is kept nowhere: whoever
// loses it opens none of them again.
func (s *Store) SealBackups(ctx context.Context, by By, passphrase string) (Done, error) {
	passphrase = norm.NFKC.String(passphrase)
	var p check.Problems
	school, err := s.School(ctx)
	if err != nil {
		return Done{}, err
	}
	office.CheckPassword(&p, passphrase, func(p string) bool { return common()[p] }, school)
	if len(p) > 0 {
		return Done{}, p
	}
	id, err := age.GenerateX25519Identity()
	if err != nil {
		return Done{}, err
	}
	var sealed bytes.Buffer
	err = s.hashing(ctx, func() error {
		to, err := age.NewScryptRecipient(passphrase)
		if err != nil {
			return err
		}
		to.SetWorkFactor(sealWork)
		out := armor.NewWriter(&sealed)
		w, err := age.Encrypt(out, to)
		if err != nil {
			return err
		}
		_, err = io.WriteString(w, id.String()+"\n")
		return errors.Join(err, w.Close(), out.Close())
	})
	if err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		_, err := t.ExecContext(ctx, `INSERT INTO backup_key (id, recipient, identity, at, actor) VALUES (1, ?1, ?2, ?3, ?4)
			ON CONFLICT (id) DO UPDATE SET recipient = ?1, identity = ?2, at = ?3, actor = ?4`, id.Recipient().String(), sealed.String(), t.at, t.by.Actor)
		return "", office.Deed{Kind: office.BackupsSealed}, err
	})
}

// UnsealBackups has backups written in the clear from now on. Those there are stay sealed.
func (s *Store) UnsealBackups(ctx context.Context, by By) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		return "", office.Deed{Kind: office.BackupsClear}, t.exec(ctx, `DELETE FROM backup_key`)
	})
}

// keyFile is the name of the file that holds a key's identity beside the backups it opens.
func (k BackupKey) keyFile() string {
	return keyPrefix + k.Recipient[max(0, len(k.Recipient)-8):] + keyEnd
}

// keepKey lays the identity, under its passphrase, beside the backups.
func keepKey(dir string, k BackupKey) error {
	path := filepath.Join(dir, k.keyFile())
	if _, err := os.Stat(path); err == nil {
		return nil
	}
	if err := os.WriteFile(path+partEnd, []byte(k.Identity), 0o600); err != nil {
		return err
	}
	return take(path+partEnd, path)
}

// seal encrypts a file to a recipient.
func seal(recipient, from, to string) (err error) {
	who, err := age.ParseX25519Recipient(recipient)
	if err != nil {
		return err
	}
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	part := to + partEnd
	out, err := os.OpenFile(part, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer func() {
		if err != nil {
			remove(part)
		}
	}()
	w, err := age.Encrypt(out, who)
	if err != nil {
		return errors.Join(err, out.Close())
	}
	_, err = io.Copy(w, in)
	if err := errors.Join(err, w.Close(), out.Close()); err != nil {
		return err
	}
	return take(part, to)
}

// ErrPassphrase says that a passphrase opens nothing there.
var ErrPassphrase = errors.New("this passphrase does not open it")

// Sealed reports whether a file's name is that of an encrypted backup.
func Sealed(path string) bool { return strings.HasSuffix(path, ".age") }

// Unseal decrypts a backup with the identity in a file that lies under a passphrase; key "" tries all that lie beside it. A passphrase
// that opens none answers ErrPassphrase.
func Unseal(from, key, passphrase, to string) (err error) {
	keys := []string{key}
	if key == "" {
		if keys, err = filepath.Glob(filepath.Join(filepath.Dir(from), keyPrefix+"*"+keyEnd)); err != nil {
			return err
		}
		if len(keys) == 0 {
			return fmt.Errorf("no file %s*%s lies beside %s; say where the key is", keyPrefix, keyEnd, from)
		}
	}
	var all []age.Identity
	for _, k := range keys {
		ids, err := openKey(k, passphrase)
		if err != nil && !errors.Is(err, ErrPassphrase) {
			return fmt.Errorf("%s: %w", k, err)
		}
		all = append(all, ids...)
	}
	if len(all) == 0 {
		return ErrPassphrase
	}
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	plain, err := age.Decrypt(in, all...)
	if err != nil {
		return fmt.Errorf("%w: %w", ErrUnsound, err)
	}
	out, err := os.OpenFile(to, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, plain)
	if err := errors.Join(err, out.Sync(), out.Close()); err != nil {
		return errors.Join(fmt.Errorf("%w: %w", ErrUnsound, err), remove(to))
	}
	return nil
}

// openKey reads the identities in a file, which lie under a passphrase or in the clear.
func openKey(path, passphrase string) ([]age.Identity, error) {
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, err
	}
	if ids, err := age.ParseIdentities(bytes.NewReader(data)); err == nil {
		return ids, nil
	}
	if passphrase == "" {
		return nil, ErrPassphrase
	}
	under, err := age.NewScryptIdentity(norm.NFKC.String(passphrase))
	if err != nil {
		return nil, err
	}
	r, err := age.Decrypt(armor.NewReader(bytes.NewReader(data)), under)
	var no *age.NoIdentityMatchError
	if errors.As(err, &no) {
		return nil, ErrPassphrase
	}
	if err != nil {
		return nil, err
	}
	return age.ParseIdentities(r)
}

// Rehearse puts a backup in place aside, as a restore would, says what is in it, and takes it away again.
func (s *Store) Rehearse(ctx context.Context, by By, dir, name, passphrase string) (c Contents, err error) {
	s.keeping.Lock()
	defer s.keeping.Unlock()
	all, err := Backups(dir, s.zone)
	if err != nil {
		return c, err
	}
	if !slices.ContainsFunc(all, func(k Kept) bool { return k.Name == name }) {
		return c, ErrNotFound
	}
	aside, err := os.MkdirTemp(dir, keptPrefix+"*"+partEnd)
	if err != nil {
		return c, err
	}
	defer os.RemoveAll(aside)
	from := filepath.Join(dir, name)
	if Sealed(name) {
		plain := filepath.Join(aside, "plain.db")
		if err := s.hashing(ctx, func() error { return Unseal(from, "", passphrase, plain) }); err != nil {
			return c, err
		}
		from = plain
	}
	if _, c, err = Restore(ctx, from, filepath.Join(aside, "school.db"), s.now()); err != nil {
		return c, err
	}
	return c, s.lookedThrough(ctx, by, "rehearsed", name, c)
}

// LookedThrough is when a backup was opened and looked through, and what was in it.
type LookedThrough struct {
	Kind, Name, Actor string // Kind: made, rehearsed
	At                time.Time
	Contents
}

func (s *Store) lookedThrough(ctx context.Context, by By, kind, name string, c Contents) error {
	_, err := s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		deed := office.Deed{} // one that is made by itself every day says nothing on the trail
		if by.Actor != "" {
			deed = map[string]office.DeedKind{"made": office.BackupMade, "rehearsed": office.BackupRehearsed}[kind].Named(name)
		}
		var last any
		if !c.Last.IsZero() {
			last = c.Last.UTC().Format(time.RFC3339Nano)
		}
		id := NewID()
		return id, deed, t.exec(ctx, `INSERT INTO backup_event (id, kind, name, school, students, marks, last_at, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			id, kind, name, c.School, c.Students, c.Marks, last, by.Actor, t.at)
	})
	return err
}

// LastLooked are the last making and the last rehearsal of a backup; zero values where there was none.
func (s *Store) LastLooked(ctx context.Context) (made, rehearsed LookedThrough, err error) {
	for _, x := range []*LookedThrough{&made, &rehearsed} {
		kind := "made"
		if x == &rehearsed {
			kind = "rehearsed"
		}
		*x, err = one(ctx, s.r, func(x *LookedThrough) []any {
			return []any{&x.Kind, &x.Name, &x.Actor, asTime{&x.At}, &x.School, &x.Students, &x.Marks, asTime{&x.Last}}
		}, `SELECT kind, name, actor, at, school, students, marks, last_at FROM backup_event WHERE kind = ? ORDER BY at DESC LIMIT 1`, kind)
		if ignoreMissing(err) != nil {
			return made, rehearsed, err
		}
		x.At, x.Last = x.At.In(s.zone), x.Last.In(s.zone)
	}
	return made, rehearsed, nil
}
