package yoru.server.announcements;

import org.springframework.data.jpa.repository.JpaRepository;
import yoru.core.letters.LetterWording;

interface KeptWordings extends JpaRepository<KeptWording, LetterWording.Kind> {}
