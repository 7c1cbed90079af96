package server

import (
	"net/http"
	"net/http/cookiejar"
	"strings"
	"testing"
)

// A coach brings in another by a link: it tells whose gym it is, makes one coach of whoever has it, and is used up; a
// withdrawn one, an old one and a made-up one let nobody in. Its secret is nowhere in the database.
func TestInvitation(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Larch")
	invite := func() (i InvitationOut) {
		u.want(200, "POST", "/api/invitations", Inviting{"Marta"}, &i)
		return i
	}
	jar, _ := cookiejar.New(nil)
	guest := user{t, s.url, &http.Client{Jar: jar}, nil, ""}
	i := invite()
	var list []InvitationOut
	if out := u.want(200, "GET", "/api/invitations", nil, &list); len(list) != 1 || list[0].InvitedBy != "Larch" ||
		strings.Contains(out, i.Secret) {
		t.Errorf("%s", out)
	}
	var welcome Welcome
	guest.want(200, "POST", "/api/join/look", BySecret{i.Secret}, &welcome)
	if welcome != (Welcome{"Larch", "Larch", "Marta"}) {
		t.Errorf("%+v", welcome)
	}
	marta := Joining{i.Secret, "Marta", "Marta@Example.org", "long enough to say"}
	for field, wrong := range map[string]Joining{
		"name":     {i.Secret, " ", marta.Email, marta.Password},
		"email":    {i.Secret, marta.Name, "nowhere", marta.Password},
		"password": {i.Secret, marta.Name, marta.Email, "short"},
	} {
		if status, _, out := guest.do("POST", "/api/join", wrong); status != 422 ||
			!strings.Contains(string(out), "body."+field) {
			t.Errorf("%s: %d %s", field, status, out)
		}
	}
	if status, _, out := guest.do("POST", "/api/join", Joining{i.Secret, "Marta", u.email,
		marta.Password}); status != 422 || !strings.Contains(string(out), "another one") {
		t.Errorf("an address that is taken: %d %s", status, out)
	}
	var me Me
	guest.want(200, "POST", "/api/join", marta, &me)
	if me.Gym != "Larch" || me.Email != "marta@example.org" {
		t.Errorf("%+v", me)
	}
	guest.want(200, "GET", "/api/today", nil, nil)
	guest.want(404, "POST", "/api/join", marta, nil)
	guest.want(404, "POST", "/api/join/look", BySecret{"made up"}, nil)

	withdrawn := invite()
	u.want(204, "DELETE", "/api/invitations/"+withdrawn.ID, nil, nil)
	guest.want(404, "POST", "/api/join/look", BySecret{withdrawn.Secret}, nil)
	old := invite()
	s.sql(t, "UPDATE invitations SET expires_at = now() - interval '1 second'")
	guest.want(404, "POST", "/api/join/look", BySecret{old.Secret}, nil)
	if u.want(200, "GET", "/api/invitations", nil, &list); len(list) != 0 {
		t.Errorf("%+v", list)
	}
	// Name, and who else coaches here.
	guest.want(200, "PUT", "/api/account", AccountName{"Marta the elder"}, &me)
	guest.want(422, "PUT", "/api/account", AccountName{"\u00a0"}, nil)
	var coaches []CoachOut
	u.want(200, "GET", "/api/coaches", nil, &coaches)
	if me.Name != "Marta the elder" || len(coaches) != 2 || coaches[1].Name != me.Name {
		t.Errorf("%+v %+v", me, coaches)
	}
	// Whoever is removed takes their links along.
	theirs := InvitationOut{}
	guest.want(200, "POST", "/api/invitations", Inviting{"a friend"}, &theirs)
	u.want(204, "POST", "/api/coaches/"+me.ID+"/remove", Confirmation{password}, nil)
	guest.want(404, "POST", "/api/join/look", BySecret{theirs.Secret}, nil)
}
