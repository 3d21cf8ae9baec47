package dev.kavrin.e2e;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;

/** A story told by hand on one page. */
abstract class PageStory {
  Page page;

  /** The first button whose name has these words. */
  final Locator button(String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name)).first();
  }

  final void fill(String label, String value) {
    page.getByLabel(label).first().fill(value);
  }
}
