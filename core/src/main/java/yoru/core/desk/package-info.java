/**
 * What somebody at the desk can do about a person or an order: decided as facts, or refused with reasons, before anything is
 * kept. Nothing here changes access; the facts do.
 */
@NullMarked
package yoru.core.desk;

import org.jspecify.annotations.NullMarked;
