@NullMarked
package yoru.server.connectors.shop;

import org.jspecify.annotations.NullMarked;
