@NullMarked
package yoru.server.connectors.folder;

import org.jspecify.annotations.NullMarked;
