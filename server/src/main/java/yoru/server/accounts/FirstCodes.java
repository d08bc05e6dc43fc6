package yoru.server.accounts;

import org.springframework.data.jpa.repository.JpaRepository;

interface FirstCodes extends JpaRepository<FirstCode, String> {}
