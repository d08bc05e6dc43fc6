package yoru.standins.shop;

import org.springframework.context.annotation.Profile;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import yoru.standins.practice.ShowingApi;
import yoru.standins.practice.Showings;

/** What a buyer reads once they have ordered. */
@RestController
@Profile("shop")
@RequestMapping("/after")
class AfterBuyingApi extends ShowingApi {

    AfterBuyingApi(Showings showings, ShopSettings settings) {
        super(showings, settings.token());
    }
}
