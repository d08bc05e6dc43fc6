package yoru.server.platform;

import com.fasterxml.jackson.databind.JavaType;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.core.converter.ModelConverter;
import io.swagger.v3.core.converter.ModelConverterContext;
import io.swagger.v3.core.util.Json;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.BooleanSchema;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.IntegerSchema;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.ObjectSchema;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.responses.ApiResponse;
import io.swagger.v3.oas.models.servers.Server;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/** The API described as OpenAPI 3.1; the browser's types are made from it. */
@Configuration(proxyBeanMethods = false)
class ApiDescription {

    @Bean
    OpenAPI openApi() {
        // a document whose form is described elsewhere
        SpringDocUtils.getConfig()
                .replaceWithSchema(JsonNode.class, new ObjectSchema().additionalProperties(new Schema<>()));
        return new OpenAPI()
                .info(new Info()
                        .title("Yoru")
                        .version("1")
                        .description("What the interface asks the server. Times are UTC, as RFC 3339 writes them;"
                                + " errors are RFC 9457 problems. A value that may be missing is left out."))
                .servers(List.of(new Server().url("/")));
    }

    /** Every operation may answer with a problem. */
    @Bean
    OpenApiCustomizer errorAnswers() {
        Schema<?> problem = new ObjectSchema();
        problem.setRequired(List.of("title", "status", "detail"));
        problem.description("What went wrong, as RFC 9457 says it.")
                .addProperty("type", new StringSchema())
                .addProperty("title", new StringSchema())
                .addProperty("status", new IntegerSchema())
                .addProperty("detail", new StringSchema())
                .addProperty("instance", new StringSchema())
                .addProperty(
                        "secondFactor", new BooleanSchema().description("The code of the second factor is needed too"))
                .addProperty("proof", new BooleanSchema().description("They are to prove first that it is them"))
                .addProperty("openly", new BooleanSchema().description("It is done where this is sent along as true"))
                .addProperty("latest", new IntegerSchema().description("The rulebook version in force"));
        var answer = new ApiResponse()
                .description("What went wrong")
                .content(new Content()
                        .addMediaType(
                                org.springframework.http.MediaType.APPLICATION_PROBLEM_JSON_VALUE,
                                new MediaType().schema(new Schema<>().$ref("#/components/schemas/Problem"))));
        return api -> {
            api.getComponents().addSchemas("Problem", problem);
            api.getPaths()
                    .values()
                    .forEach(path -> path.readOperations()
                            .forEach(operation -> operation.getResponses().addApiResponse("default", answer)));
        };
    }

    /** Says of a record's components that they are always there, but for those marked {@link Nullable}. */
    @Component
    static class RequiredUnlessNullable implements ModelConverter {

        @Override
        public @Nullable Schema<?> resolve(
                AnnotatedType type, ModelConverterContext context, Iterator<ModelConverter> chain) {
            if (!chain.hasNext()) {
                return null;
            }
            Schema<?> schema = chain.next().resolve(type, context, chain);
            JavaType java = Json.mapper().constructType(type.getType());
            if (java != null && java.getRawClass().isRecord()) {
                Schema<?> model =
                        context.getDefinedModels().get(java.getRawClass().getSimpleName());
                if (model != null) {
                    model.setRequired(required(java.getRawClass()));
                }
            }
            return schema;
        }

        private static List<String> required(Class<?> record) {
            return Arrays.stream(record.getRecordComponents())
                    .filter(component -> !component.getAnnotatedType().isAnnotationPresent(Nullable.class))
                    .map(RecordComponent::getName)
                    .toList();
        }
    }
}
