package yoru.server.systems;

import java.util.Collection;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;
import yoru.server.systems.Listed.ItemKind;

interface CatalogueItems extends JpaRepository<CatalogueItem, Long> {

    /** Holds back whoever else has read the same catalogue, until the transaction ends. */
    @Query(
            value = "select cast(pg_advisory_xact_lock(hashtextextended('catalogue ' || :connection, 2)) as text)",
            nativeQuery = true)
    String oneAtATime(String connection);

    List<CatalogueItem> findByConnectionId(String connectionId);

    List<CatalogueItem> findByConnectionIdAndNewsIsNotNullOrderByPosition(String connectionId);

    List<CatalogueItem> findByKindAndVanishedAtIsNullOrderByPosition(ItemKind kind);

    @Query(value = """
                    select external_id from catalogue_item
                    where kind = 'PRODUCT' and vanished_at is null and cast(details ->> 'thing' as boolean)""", nativeQuery = true)
    Set<String> thingsToPost();

    @Query(value = """
                    select details ->> 'link' from catalogue_item
                    where kind = 'PRODUCT' and vanished_at is not null and details ->> 'link' is not null""", nativeQuery = true)
    Set<String> basketsNoLongerSold();

    @Query("""
            select it.externalId from CatalogueItem it where it.kind = :kind and it.vanishedAt is not null
            and not exists (select 1 from CatalogueItem other where other.kind = :kind
                and other.externalId = it.externalId and other.vanishedAt is null)""")
    Set<String> vanished(ItemKind kind);

    List<CatalogueItem> findByKindAndExternalId(ItemKind kind, String externalId);

    List<CatalogueItem> findByConnectionIdInAndExternalIdIn(
            Collection<String> connectionIds, Collection<String> externalIds);

    /** Everything that is listed, with the address of its page where the system says one. */
    @Query(value = """
                    select connection_id as "connectionId", kind as "kind", external_id as "externalId",
                      details ->> 'link' as "link"
                    from catalogue_item where vanished_at is null""", nativeQuery = true)
    List<Page> pages();

    /** A listed thing and its page. */
    interface Page {
        String getConnectionId();

        ItemKind getKind();

        String getExternalId();

        @Nullable
        String getLink();
    }

    @Query("""
                    select it.connectionId as connection, it.kind as kind, cast(count(it) as integer) as many
                    from CatalogueItem it where it.vanishedAt is null group by it.connectionId, it.kind""")
    List<KindCount> counts();

    /** How many things of a kind a system lists. */
    interface KindCount {
        String getConnection();

        ItemKind getKind();

        int getMany();
    }
}
