package dev.kavrin.server.capture;

import org.springframework.data.jpa.repository.JpaRepository;

interface CursorRows extends JpaRepository<CursorRow, Long> {}
