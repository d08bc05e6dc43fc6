package yoru.server.systems;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import yoru.server.systems.Listed.ItemKind;

interface CatalogueItems extends JpaRepository<CatalogueItem, Long> {

    List<CatalogueItem> findByConnectionId(String connectionId);

    Optional<CatalogueItem> findByConnectionIdAndKindAndExternalId(
            String connectionId, ItemKind kind, String externalId);

    List<CatalogueItem> findByKindAndExternalIdAndVanishedAtIsNull(ItemKind kind, String externalId);

    List<CatalogueItem> findByConnectionIdAndNewsIsNotNullOrderByPosition(String connectionId);

    List<CatalogueItem> findByKindAndVanishedAtIsNullOrderByPosition(ItemKind kind);

    List<CatalogueItem> findByKindAndExternalId(ItemKind kind, String externalId);
}
