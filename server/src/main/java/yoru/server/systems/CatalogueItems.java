package yoru.server.systems;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface CatalogueItems extends JpaRepository<CatalogueItem, Long> {

    List<CatalogueItem> findByConnectionId(String connectionId);

    Optional<CatalogueItem> findByConnectionIdAndKindAndExternalId(
            String connectionId, CatalogueItem.ItemKind kind, String externalId);

    List<CatalogueItem> findByKindAndVanishedAtIsNullOrderByPosition(CatalogueItem.ItemKind kind);
}
