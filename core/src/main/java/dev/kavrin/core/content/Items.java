package dev.kavrin.core.content;

import java.util.List;

/** The things the parts of a file are made of, where these can be told apart one by one. */
@FunctionalInterface
public interface Items {
  Items NONE = part -> List.of();

  /**
   * @param says all of it but its numbers; where one stands it says of what kind it is
   * @param numbers in the order in which they are said
   */
  record Item(String says, double[] numbers) {}

  /** Of a part, in the order of the file; none if there is no such part or nobody can tell. */
  List<Item> of(String part);
}
