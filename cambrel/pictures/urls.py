from django.urls import path

from cambrel.pictures import serving

app_name = "pictures"
urlpatterns = [path("scene/<str:token>/<int:height>.<str:kind>", serving.picture, name="picture")]
