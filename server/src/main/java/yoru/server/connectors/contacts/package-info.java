@NullMarked
package yoru.server.connectors.contacts;

import org.jspecify.annotations.NullMarked;
