package yoru.standins.practice;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletResponse;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;

/** What a browser keeps of whoever practises; nothing here is worth a password. */
public final class Cookies {

    private static final int A_MONTH = 30 * 24 * 3600;

    private Cookies() {}

    /** Kept for a month; an empty value = forgotten. */
    public static void keep(String name, String value, HttpServletResponse response) {
        var cookie = new Cookie(name, URLEncoder.encode(value, StandardCharsets.UTF_8));
        cookie.setPath("/");
        cookie.setHttpOnly(true);
        cookie.setAttribute("SameSite", "Lax");
        cookie.setMaxAge(value.isEmpty() ? 0 : A_MONTH);
        response.addCookie(cookie);
    }

    public static String read(String cookie) {
        return URLDecoder.decode(cookie, StandardCharsets.UTF_8);
    }
}
