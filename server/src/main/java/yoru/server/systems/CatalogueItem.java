package yoru.server.systems;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;
import yoru.server.systems.Listed.ItemKind;

/** A product or course as a connected system last listed it, tied by the system's own stable id. */
@Entity
@Table(name = "catalogue_item")
class CatalogueItem {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    @Nullable
    Long id;

    String connectionId;

    @Enumerated(EnumType.STRING)
    ItemKind kind;

    String externalId;
    String title;
    String category;
    int position;

    /** What else the system says of it, as JSON. */
    @JdbcTypeCode(SqlTypes.JSON)
    String details;

    Instant seenAt;

    @Nullable
    Instant vanishedAt;

    /** What it was called before, until somebody has seen that. */
    @Nullable
    String formerTitle;

    /** What has become of it that nobody has seen yet. */
    @Enumerated(EnumType.STRING)
    Catalogue.@Nullable News news;

    @SuppressWarnings("NullAway.Init")
    protected CatalogueItem() {}

    /** The rest is set when a listing is taken over. */
    @SuppressWarnings("NullAway.Init")
    CatalogueItem(String connectionId, ItemKind kind, String externalId) {
        this.connectionId = connectionId;
        this.kind = kind;
        this.externalId = externalId;
    }
}
