package yoru.standins.shop;

import java.math.BigDecimal;

/** @param thing whether it is posted */
record Product(String id, String title, String category, BigDecimal price, boolean thing, String about) {

    String shownPrice() {
        return price.signum() == 0 ? "free" : "€" + price.toPlainString();
    }
}
