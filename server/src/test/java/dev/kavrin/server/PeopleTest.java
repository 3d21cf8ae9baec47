package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** People are let in, sign in, see what their role allows, and are shown out again. */
class PeopleTest {
  @RegisterExtension static final RunningKavrin app = new RunningKavrin();

  private String project(String name) throws Exception {
    app.write(app.in(name).resolve(name + ".glb"), RunningKavrin.model("frame"));
    Client.Answer made = app.project(app.in(name), app.in(name + "-keep"), 60);
    assertThat(made.status()).as(made.body()).isEqualTo(200);
    return made.json().path("id").asString();
  }

  private static List<String> ids(JsonNode list) {
    List<String> ids = new ArrayList<>();
    list.forEach(n -> ids.add(n.path("id").asString()));
    return ids;
  }

  @Test
  void aGuestSeesTheirProjectAndNoOther() throws Exception {
    String mine = project("winch");
    String theirs = project("tower");
    Client guest = Guests.invited(app.client(), "Maren Holt", mine, "LOOK");

    assertThat(ids(guest.get("/api/projects").json())).containsExactly(mine);
    assertThat(ids(guest.get("/api/overview").json().path("projects"))).containsExactly(mine);
    assertThat(guest.get("/api/jobs").json()).isEmpty();
    assertThat(guest.get("/api/projects/" + mine).status()).isEqualTo(200);
    assertThat(guest.get("/api/projects/" + theirs).status()).isEqualTo(404);
    JsonNode session = guest.get("/api/session").json();
    assertThat(session.has("everywhere")).isFalse();
    assertThat(session.path("roots")).isEmpty();
    assertThat(session.path("rights").path(mine).asString()).isEqualTo("LOOK");
    assertThat(guest.get("/api/people").status()).isEqualTo(403);
  }

  @Test
  void whatAGuestDoesIsDoneInTheirName() throws Exception {
    String id = project("rail");
    Client guest = Guests.invited(app.client(), "Tarek Osei", id, "RESTORE");
    String document =
        guest
            .get("/api/overview")
            .json()
            .path("projects")
            .path(0)
            .path("documents")
            .path(0)
            .path("id")
            .asString();
    Client.Answer made =
        guest.post("/api/documents/" + document + "/copies", "{\"note\":\"mine\"}");
    assertThat(made.status()).as(made.body()).isEqualTo(200);
    String state =
        guest
            .get("/api/documents/" + document + "/versions")
            .json()
            .path("states")
            .path(0)
            .path("id")
            .asString();
    app.write(app.in("rail").resolve("rail.glb"), RunningKavrin.model("frame", "wheel"));
    Client.Answer preview =
        guest.post(
            "/api/documents/" + document + "/restores/preview",
            "{\"state\":\"%s\",\"to\":\"LIVE\"}".formatted(state));
    assertThat(preview.status()).as(preview.body()).isLessThan(500).isNotEqualTo(403);
    assertThat(guest.get("/api/jobs").json())
        .allSatisfy(job -> assertThat(job.path("person").asString()).isEqualTo("Tarek Osei"));
  }

  @Test
  void anInvitationWorksOnceAndItsPasswordIsNowhereAsItIs() throws Exception {
    String path = Guests.invitation(app.client(), "Jana Brix", null, "LOOK");
    String token = path.substring(path.indexOf('=') + 1);
    Client guest = new Client(app.client().base());
    guest.get("/api/invitation?token=" + token);
    for (String poor : List.of("short", "Jana Brix", "aaaaaaaaaaaaaaaa", "x".repeat(73))) {
      Client.Answer refused = guest.post("/api/invitation", Guests.accept(token, poor));
      assertThat(refused.status()).as(poor).isEqualTo(422);
    }
    assertThat(guest.post("/api/invitation", Guests.accept(token, Guests.PASSWORD)).status())
        .isEqualTo(204);
    Client second = new Client(app.client().base());
    second.get("/api/invitation?token=" + token);
    assertThat(second.post("/api/invitation", Guests.accept(token, Guests.PASSWORD)).status())
        .isEqualTo(404);
    try (Connection c =
            DriverManager.getConnection(
                app.database().url(), app.database().user(), app.database().password());
        ResultSet row =
            c.createStatement()
                .executeQuery("select password_hash from person where name = 'Jana Brix'")) {
      assertThat(row.next()).isTrue();
      // bcrypt in its modular form with 2^12 rounds (OWASP Password Storage Cheat Sheet: >= 10).
      assertThat(row.getString(1)).matches("\\$2[aby]\\$12\\$[./A-Za-z0-9]{53}");
    }
  }

  @Test
  void nameAndPasswordOpenASessionAndSigningOutEndsIt() throws Exception {
    Guests.invited(app.client(), "Pia Lund", null, "LOOK");
    Client client = new Client(app.client().base());
    assertThat(Guests.signIn(client, "Pia Lund", "not her password").problem())
        .isEqualTo("wrong-password");
    assertThat(Guests.signIn(client, "Nobody Here", "not her password").body())
        .as("neither name nor password is told to be the wrong one")
        .isEqualTo(Guests.signIn(new Client(client.base()), "Pia Lund", "nor this").body());
    assertThat(Guests.signIn(client, "Pia Lund", Guests.PASSWORD).status()).isEqualTo(204);
    assertThat(client.get("/api/session").status()).isEqualTo(200);
    assertThat(client.delete("/api/session").status()).isEqualTo(204);
    assertThat(client.get("/api/session").status()).isEqualTo(401);
  }

  @Test
  void sessionsElsewhereAreListedAndEnded() throws Exception {
    Client first = Guests.invited(app.client(), "Oskar Veld", null, "LOOK");
    Client second = new Client(first.base());
    Guests.signIn(second, "Oskar Veld", Guests.PASSWORD);
    JsonNode all = first.get("/api/session/all").json();
    assertThat(all).hasSize(2);
    for (JsonNode session : all) {
      if (!session.path("here").asBoolean()) {
        first.delete("/api/session/all/" + session.path("id").asString());
      }
    }
    assertThat(second.get("/api/session").status()).isEqualTo(401);
    assertThat(first.get("/api/session").status()).isEqualTo(200);

    Guests.signIn(second, "Oskar Veld", Guests.PASSWORD);
    String another = "five buckets of grease";
    assertThat(
            first
                .put(
                    "/api/session/password",
                    "*",
                    "{\"old\":\"wrong\",\"password\":\"%s\"}".formatted(another))
                .status())
        .isEqualTo(422);
    assertThat(
            first
                .put(
                    "/api/session/password",
                    "*",
                    "{\"old\":\"%s\",\"password\":\"%s\"}".formatted(Guests.PASSWORD, another))
                .status())
        .isEqualTo(204);
    assertThat(second.get("/api/session").status()).isEqualTo(401);
    assertThat(first.get("/api/session").status()).isEqualTo(200);
  }

  @Test
  void guessingIsSlowedAndNobodyElseIsMadeToWait() throws Exception {
    Guests.invited(app.client(), "Lev Arndt", null, "LOOK");
    Guests.invited(app.client(), "Ona Reus", null, "LOOK");
    Client guesser = new Client(app.client().base());
    for (int guess = 0; guess < 4; guess++) {
      assertThat(Guests.signIn(guesser, "Lev Arndt", "guess " + guess).status()).isEqualTo(401);
    }
    Client.Answer slowed = Guests.signIn(guesser, "Lev Arndt", Guests.PASSWORD);
    assertThat(slowed.status()).isEqualTo(429);
    assertThat(slowed.problem()).isEqualTo("too-many-tries");
    assertThat(Guests.signIn(new Client(guesser.base()), "Ona Reus", Guests.PASSWORD).status())
        .isEqualTo(204);
  }

  @Test
  void whoIsRemovedIsOutAtOnceAndTheLastAdministratorStays() throws Exception {
    Client guest = Guests.invited(app.client(), "Rik Sand", null, "PLAN");
    Client.Answer all = app.client().get("/api/people");
    assertThat(all.body()).contains("Rik Sand").doesNotContain("$2");
    assertThat(app.client().delete("/api/people/Rik%20Sand").status()).isEqualTo(204);
    assertThat(guest.get("/api/session").status()).isEqualTo(401);
    assertThat(Guests.signIn(guest, "Rik Sand", Guests.PASSWORD).status()).isEqualTo(401);
    assertThat(app.client().delete("/api/people/Ilse%20Quarn").problem()).isEqualTo("nobody-left");
    assertThat(
            app.client().put("/api/people/Ilse%20Quarn/grants", "*", "{\"grants\":[]}").problem())
        .isEqualTo("nobody-left");
    assertThat(app.client().get("/api/session").status()).isEqualTo(200);
  }

  @Test
  void whoOnlyLooksCancelsNobodysJob() throws Exception {
    project("buffer");
    Client guest = Guests.invited(app.client(), "Ute Farn", null, "LOOK");
    String job = guest.get("/api/jobs").json().path(0).path("id").asString();
    assertThat(guest.get("/api/jobs/" + job).status()).isEqualTo(200);
    assertThat(guest.delete("/api/jobs/" + job).problem()).isEqualTo("no-right");
    Client other = Guests.invited(app.client(), "Per Lind", null, "RESTORE");
    assertThat(other.delete("/api/jobs/" + job).status()).isNotEqualTo(403);
  }

  @Test
  void aRoleTakenAwayHoldsFromTheNextCall() throws Exception {
    String id = project("pulley");
    Client guest = Guests.invited(app.client(), "Nils Aber", id, "PLAN");
    assertThat(guest.get("/api/projects/" + id).status()).isEqualTo(200);
    Client.Answer changed =
        app.client().put("/api/people/Nils%20Aber/grants", "*", "{\"grants\":[]}");
    assertThat(changed.status()).isEqualTo(204);
    assertThat(guest.get("/api/projects/" + id).status()).isEqualTo(404);
    assertThat(guest.get("/api/overview").status()).isEqualTo(403);
  }

  @Test
  void whoAdministersOneProjectLetsPeopleIntoThatAndNoOther() throws Exception {
    String mine = project("sheave");
    String other = project("cabin");
    Client lead = Guests.invited(app.client(), "Wim Aalto", mine, "ADMINISTER");
    Guests.invited(app.client(), "Ida Brok", other, "PLAN");
    Guests.invitation(app.client(), "Jon Marsh", other, "LOOK");

    Client helper = Guests.invited(lead, "Lotte Sund", mine, "RESTORE");
    assertThat(helper.get("/api/projects/" + mine).status()).isEqualTo(200);
    assertThat(names(lead.get("/api/people").json()))
        .as("those of other projects are not told")
        .contains("Ilse Quarn", "Wim Aalto", "Lotte Sund")
        .doesNotContain("Ida Brok", "Jon Marsh");

    String elsewhere = "{\"name\":\"Max Orne\",\"grants\":[%s]}";
    for (String grant : List.of(Guests.grant(other, "LOOK"), Guests.grant(null, "LOOK"))) {
      assertThat(lead.post("/api/people", elsewhere.formatted(grant)).problem())
          .isEqualTo("not-yours");
    }
    assertThat(lead.delete("/api/people/Ilse%20Quarn").problem()).isEqualTo("not-yours");
    assertThat(lead.delete("/api/people/Ida%20Brok").problem()).isEqualTo("not-yours");
    String asMine = Guests.grant(mine, "LOOK");
    assertThat(
            lead.post("/api/people", "{\"name\":\"Jon Marsh\",\"grants\":[%s]}".formatted(asMine))
                .problem())
        .as("a new way in would open the other project as well")
        .isEqualTo("not-yours");

    Client.Answer more =
        lead.post("/api/people", "{\"name\":\"Ida Brok\",\"grants\":[%s]}".formatted(asMine));
    assertThat(more.status()).as(more.body()).isEqualTo(201);
    assertThat(more.json().has("path")).as("she has a password already").isFalse();
    assertThat(lead.put("/api/people/Ida%20Brok/grants", "*", "{\"grants\":[]}").status())
        .isEqualTo(204);
    Client ida = new Client(lead.base());
    Guests.signIn(ida, "Ida Brok", Guests.PASSWORD);
    assertThat(ida.get("/api/projects/" + other).status()).as("what others gave").isEqualTo(200);
    assertThat(ida.get("/api/projects/" + mine).status()).isEqualTo(404);

    assertThat(lead.delete("/api/people/Lotte%20Sund").status()).isEqualTo(204);
    assertThat(helper.get("/api/session").status()).isEqualTo(401);
    assertThat(ida.get("/api/people").problem()).isEqualTo("no-right");
  }

  private static List<String> names(JsonNode list) {
    List<String> names = new ArrayList<>();
    list.forEach(n -> names.add(n.path("name").asString()));
    return names;
  }

  @Test
  void figuresForOperatorsAreForAdministrators() throws Exception {
    Client guest = Guests.invited(app.client(), "Edda Moll", null, "PLAN");
    assertThat(app.client().get("/actuator/metrics").status()).isEqualTo(200);
    assertThat(guest.get("/api/session").status()).isEqualTo(200);
    assertThat(guest.get("/actuator/metrics/jvm.memory.used").status()).isEqualTo(403);
    // Folders are told by their paths, which are not for everybody.
    assertThat(app.client().get("/actuator/health").body()).contains("details");
    assertThat(guest.get("/actuator/health").body()).doesNotContain("details");
  }

  @Test
  void noSecretIsInTheLog() throws Exception {
    String path = Guests.invitation(app.client(), "Vera Kolt", null, "LOOK");
    String token = path.substring(path.indexOf('=') + 1);
    Client guest = new Client(app.client().base());
    guest.get("/api/invitation?token=" + token);
    PrintStream out = System.out;
    ByteArrayOutputStream told = new ByteArrayOutputStream();
    System.setOut(new PrintStream(told, true));
    try {
      guest.post("/api/invitation", Guests.accept(token, Guests.PASSWORD));
      Guests.signIn(guest, "Vera Kolt", "a wrong " + Guests.PASSWORD);
      Guests.signIn(guest, "Vera Kolt", Guests.PASSWORD);
      guest.post("/api/sign-in", "{\"name\":7,\"password\":{\"a\":\"" + Guests.PASSWORD + "\"}}");
    } finally {
      System.setOut(out);
    }
    assertThat(told.toString()).doesNotContain(Guests.PASSWORD, token);
  }
}
