package yoru.server.rehearsals;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface KeptRehearsals extends JpaRepository<KeptRehearsal, String> {

    List<KeptRehearsal> findAllByOrderByTitleAscIdAsc();

    List<KeptRehearsal> findByFailsIsNotNullOrderByTitleAscIdAsc();
}
