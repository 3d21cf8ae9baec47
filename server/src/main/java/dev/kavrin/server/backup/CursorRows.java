package dev.kavrin.server.backup;

import org.springframework.data.jpa.repository.JpaRepository;

interface CursorRows extends JpaRepository<CursorRow, Long> {}
