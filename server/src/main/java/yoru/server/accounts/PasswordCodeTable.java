package yoru.server.accounts;

import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface PasswordCodeTable extends JpaRepository<PasswordCode, String> {

    void deleteByOperatorId(UUID operatorId);
}
