package dev.kavrin.core.settings;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A registry as exported to text: keys in brackets, {@code "name"="text"} or {@code
 * "name"=dword:hex} a line. Binary values are passed over. Common practice, no source; from memory.
 */
final class RegistrySyntax extends ReadSyntax {
  private static final Pattern HEAD =
      Pattern.compile("\\s*(Windows Registry Editor Version \\d+\\.\\d+|REGEDIT4)\\s*");
  private static final Pattern KEY = Pattern.compile("\\[([^-].*)]");
  private static final Pattern VALUE =
      Pattern.compile("(?:\"((?:[^\"\\\\]|\\\\.)*)\"|(@))=(?:\"(.*)\"|dword:([0-9a-fA-F]{1,8}))");

  @Override
  public List<SettingsEntry> entries(String text) throws SettingsException {
    List<String> lines = text.lines().toList();
    if (lines.isEmpty() || !HEAD.matcher(lines.get(0)).matches()) {
      throw new SettingsException("It does not begin like an exported registry");
    }
    List<SettingsEntry> entries = new ArrayList<>();
    String path = "";
    for (String line : lines) {
      Matcher key = KEY.matcher(line.strip());
      Matcher value = VALUE.matcher(line.strip());
      if (key.matches()) {
        path = key.group(1) + "/";
      } else if (value.matches()) {
        String name = value.group(2) == null ? plain(value.group(1)) : "@";
        entries.add(entry(path + name, said(value)));
      }
    }
    return entries;
  }

  private static String said(Matcher value) {
    return value.group(4) == null
        ? plain(value.group(3))
        : String.valueOf(Long.parseLong(value.group(4), 16));
  }

  private static String plain(String escaped) {
    return escaped.replaceAll("\\\\(.)", "$1");
  }
}
