@echo off
rem UNTESTED: nobody has run this on Windows yet. It needs a Java 17 runtime and a PostgreSQL
rem database, and a settings file as in kavrin.properties.example. What this system cannot tell (who
rem has a file open) stands as "unknown" on the screens.
if "%~1"=="" (
  echo usage: kavrin-windows-untested.cmd SETTINGS-FILE ^(see kavrin.properties.example^)
  exit /b 64
)
java -Xmx512m -Dfile.encoding=UTF-8 -cp "%~dp0..\lib\*" dev.kavrin.server.Kavrin "%~1"
