package yoru.server.visitors;

import java.util.Collection;
import org.springframework.data.jpa.repository.JpaRepository;

interface OwnPageTable extends JpaRepository<OwnPageRow, Long> {

    void deleteByPersonIdIn(Collection<Long> people);
}
