package yoru.server.systems;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface CatalogueItems extends JpaRepository<CatalogueItem, Long> {

    List<CatalogueItem> findByConnectionId(String connectionId);

    List<CatalogueItem> findByKindAndVanishedAtIsNullOrderByPosition(CatalogueItem.ItemKind kind);
}
