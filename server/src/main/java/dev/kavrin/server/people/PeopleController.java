package dev.kavrin.server.people;

import dev.kavrin.server.people.PeopleService.Administrator;
import dev.kavrin.server.people.PeopleService.Grant;
import dev.kavrin.server.people.PeopleService.PersonLine;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Who is let in and what each may, for those who administer everything or single projects. */
@RestController
class PeopleController {
  private final PeopleService people;
  private final Access access;

  PeopleController(PeopleService people, Access access) {
    this.people = people;
    this.access = access;
  }

  record Invite(@NotBlank @Size(max = 100) String name, @NotNull List<@Valid Grant> grants) {}

  /**
   * @param path of a page that works once, for a week: told here and never again; null for somebody
   *     who signs in already
   */
  record InvitationLink(@Nullable String path) {}

  record Grants(@NotNull List<@Valid Grant> grants) {}

  @GetMapping("/api/people")
  List<PersonLine> all(Principal who) {
    return people.all(administrator(who));
  }

  /** Lets somebody in; for one who did not choose a password yet, a new way to choose one. */
  @PostMapping("/api/people")
  @ResponseStatus(HttpStatus.CREATED)
  @ApiResponse(responseCode = "201")
  InvitationLink invite(@Valid @RequestBody Invite r, Principal who) {
    return new InvitationLink(
        people
            .invite(r.name().strip(), r.grants(), administrator(who))
            .map("/invitation?token="::concat)
            .orElse(null));
  }

  @PutMapping("/api/people/{name}/grants")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void change(@PathVariable String name, @Valid @RequestBody Grants r, Principal who) {
    people.change(name, r.grants(), administrator(who));
  }

  /** Their sessions end at once. */
  @DeleteMapping("/api/people/{name}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String name, Principal who) {
    people.remove(name, administrator(who));
  }

  private Administrator administrator(Principal who) {
    return new Administrator(who.getName(), access.current());
  }
}
