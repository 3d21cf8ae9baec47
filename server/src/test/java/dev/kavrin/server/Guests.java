package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;

/** People let in beside the one who started Kavrin. */
final class Guests {
  static final String PASSWORD = "six winches on the incline";

  private Guests() {}

  /** Somebody with a role in a project, or in all of them if that is null, who has signed in. */
  static Client invited(Client by, String name, String project, String role) throws Exception {
    String path = invitation(by, name, project, role);
    Client guest = new Client(by.base());
    String token = path.substring(path.indexOf('=') + 1);
    assertThat(guest.get("/api/invitation?token=" + token).json().path("name").asString())
        .isEqualTo(name);
    Client.Answer accepted = guest.post("/api/invitation", accept(token, PASSWORD));
    assertThat(accepted.status()).as(accepted.body()).isEqualTo(204);
    assertThat(guest.get("/api/session").json().path("name").asString()).isEqualTo(name);
    return guest;
  }

  static String accept(String token, String password) {
    return "{\"token\":\"%s\",\"password\":\"%s\"}".formatted(token, password);
  }

  static String invitation(Client by, String name, String project, String role) throws Exception {
    Client.Answer answer =
        by.post(
            "/api/people",
            "{\"name\":\"%s\",\"grants\":[%s]}".formatted(name, grant(project, role)));
    assertThat(answer.status()).as(answer.body()).isEqualTo(201);
    return answer.json().path("path").asString();
  }

  static String grant(String project, String role) {
    return project == null
        ? "{\"role\":\"%s\"}".formatted(role)
        : "{\"project\":\"%s\",\"role\":\"%s\"}".formatted(project, role);
  }

  static Client.Answer signIn(Client client, String name, String password) throws Exception {
    client.get("/api/invitation?token=none");
    return client.post(
        "/api/sign-in", "{\"name\":\"%s\",\"password\":\"%s\"}".formatted(name, password));
  }
}
