package dev.kavrin.e2e;

import org.junit.jupiter.api.extension.AfterTestExecutionCallback;
import org.junit.jupiter.api.extension.ExtensionContext;

/** Prints what the page showed when a test failed: nobody can look at it afterwards. */
public final class ShownOnFailure implements AfterTestExecutionCallback {
  @Override
  public void afterTestExecution(ExtensionContext context) throws Exception {
    if (context.getExecutionException().isPresent()) {
      System.out.println(context.getDisplayName() + " failed at " + Browser.shown());
      System.out.println("The service said: " + Service.said());
    }
  }
}
